import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import { resultKey } from '../result-key';
import { rulesetOf } from '@/core/rulesets';
import { ChooseAll, ChooseGame } from './selection';
import type { GameSummary } from '@/server/game-list';

/** A plain list of games; each opens its Desk. */
export async function GamesTable({
  games,
  canChoose = false,
}: {
  games: readonly GameSummary[];
  /** Whether something can be done with many of them at once. */
  canChoose?: boolean;
}) {
  const t = await getTranslations('games');
  const results = await getTranslations('results');
  const handicaps = await getTranslations('handicaps');
  const player = (game: GameSummary, side: 0 | 1) => {
    const name = game.players[side] ?? '?';
    const won = game.result === (side === 0 ? '1-0' : '0-1');
    return (
      <span className={won ? 'won' : undefined}>
        {name}
        {game.ratings[side] !== null && <span className="soft"> {game.ratings[side]}</span>}
        {game.ownSide === side && <span className="visually-hidden"> ({t('you')})</span>}
      </span>
    );
  };
  return (
    <div className="table-responsive quiet-box p-0">
      <table className="table table-hover games-table">
        <thead>
          <tr>
            {canChoose && (
              <th>
                <ChooseAll ids={games.map(({ id }) => id)} />
              </th>
            )}
            <th>{t('date')}</th>
            <th className="d-none d-sm-table-cell">{t('game')}</th>
            <th>{t('players')}</th>
            <th>{t('result')}</th>
            <th className="text-end d-none d-sm-table-cell">{t('accuracy')}</th>
            <th>{t('event')}</th>
            <th className="text-end d-none d-sm-table-cell">{t('moves')}</th>
          </tr>
        </thead>
        <tbody>
          {games.map((game) => (
            <tr key={game.id}>
              {canChoose && (
                <td>
                  <ChooseGame
                    id={game.id}
                    label={t('choose', {
                      first: game.players[0] ?? '?',
                      second: game.players[1] ?? '?',
                    })}
                  />
                </td>
              )}
              <td>{game.date ?? '–'}</td>
              <td className="soft d-none d-sm-table-cell">{t(game.kind)}</td>
              <td className="wide">
                <Link href={`/games/${game.id}`}>
                  {player(game, 0)} – {player(game, 1)}
                </Link>
              </td>
              <td className="text-nowrap">{results(resultKey(game, game.result))}</td>
              <td className="text-end text-nowrap d-none d-sm-table-cell">
                {game.accuracy?.map((value) => value?.toFixed(0) ?? '–').join(' · ')}
              </td>
              <td className="wide">
                {game.event ?? '–'}
                {game.round && <span className="soft"> {t('round', { round: game.round })}</span>}
                {game.timeControl && <span className="soft"> · {game.timeControl}</span>}
                {game.handicap && (
                  <span className="soft"> · {handicaps(game.handicap as 'even')}</span>
                )}
              </td>
              <td className="text-end d-none d-sm-table-cell">
                {rulesetOf(game.kind).numbering === 'move' ? Math.ceil(game.plies / 2) : game.plies}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
