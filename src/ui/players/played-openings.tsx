import { wordOfSide } from '@/contract/shapes';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { gamesAsTheirs, libraryHref } from '@/contract/library';
import type { Player } from '@/contract/players';
import { GAME_KINDS, otherSide, type GameKind, type Side, SIDES } from '@/core/game/ruleset';
import { scoreOf, type Score } from '@/core/game/score-share';
import { familyOf, openingText, readOpening, type Opening } from '@/core/openings/opening';
import { rulesetOf } from '@/core/rulesets';
import { OpeningName } from '../opening-name';
import { LookCloser } from './look-closer';
import { ScoreText } from './score-text';

/** What is known here of one of a player's games. */
interface Played {
  kind: GameKind;
  side: Side;
  date: string | null;
  outcome: keyof Score | null;
  opening: string | null;
}

interface PlayedOpening {
  opening: Opening;
  games: Played[];
}

/** Openings that are listed of a side, those played most often. */
const MOST_OPENINGS = 12;

/** Openings of some games, the usual ones first. */
function openingsOf(played: readonly Played[]): PlayedOpening[] {
  const met = new Map<string, PlayedOpening>();
  for (const game of played) {
    if (game.opening === null) continue;
    const opening = familyOf(readOpening(game.opening));
    const known = met.get(opening.name);
    if (known) known.games.push(game);
    else met.set(opening.name, { opening, games: [game] });
  }
  return [...met.values()].sort((a, b) => b.games.length - a.games.length);
}

/** What a player opens with as either side, how often, with what success and when last; and how the reader fared against it. */
export function PlayedOpenings({
  player,
  played,
  own,
}: {
  player: Player;
  /** The latest first. */
  played: readonly Played[];
  /** The reader's own games; null: the player is the reader, or nobody knows who the reader is. */
  own: readonly Played[] | null;
}) {
  const t = useTranslations('players');
  const kinds = useTranslations('games');
  const sides = useTranslations('sides');
  const sections = GAME_KINDS.flatMap((kind) =>
    SIDES.map((side) => ({
      kind,
      side,
      games: played.filter((game) => game.kind === kind && game.side === side),
      met: openingsOf(own?.filter((game) => game.kind === kind && game.side !== side) ?? []),
    })),
  ).filter(({ games }) => games.some(({ opening }) => opening !== null));
  return sections.map(({ kind, side, games, met }) => {
    const sideName = sides(`${kind}.${rulesetOf(kind).sides[side]}`);
    const openings = openingsOf(games);
    const playing = wordOfSide(side);
    return (
      <section
        key={`${kind}${side}`}
        className="quiet-box"
        aria-labelledby={`openings-${kind}-${side}`}
      >
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h2 id={`openings-${kind}-${side}`} className="m-0">
            {t('openingsAs', { game: kinds(kind), side: sideName })}
          </h2>
          <LookCloser kind={kind} player={player} side={side} />
        </div>
        <div className="games-scroll">
          <table className="games-table">
            <thead>
              <tr>
                <th className="wide">{t('opening')}</th>
                <th className="text-end">{t('gamesColumn')}</th>
                <th>{t('scoreColumn')}</th>
                <th>{t('latest')}</th>
                {own && <th>{t('ownAgainst')}</th>}
              </tr>
            </thead>
            <tbody>
              {openings.slice(0, MOST_OPENINGS).map(({ opening, games: some }) => {
                const against = met.find((one) => one.opening.name === opening.name);
                return (
                  <tr key={opening.name}>
                    <td className="wide">
                      <OpeningName text={openingText(opening)} />
                    </td>
                    <td className="text-end text-nowrap">
                      {some.length}{' '}
                      <span className="soft">
                        {Math.round((100 * some.length) / games.length)} %
                      </span>
                    </td>
                    <td>
                      <Link
                        href={libraryHref({
                          ...gamesAsTheirs(player),
                          kind,
                          playing,
                          opening: opening.name,
                        })}
                      >
                        <ScoreText score={scoreOf(some)} />
                      </Link>
                    </td>
                    <td className="text-nowrap">{some[0]!.date ?? '–'}</td>
                    {own && (
                      <td>
                        {against ? (
                          <Link
                            href={libraryHref({
                              kind,
                              side: wordOfSide(otherSide(side)),
                              opening: opening.name,
                            })}
                          >
                            <ScoreText score={scoreOf(against.games)} />
                          </Link>
                        ) : (
                          <span className="soft">{t('neverMet')}</span>
                        )}
                      </td>
                    )}
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      </section>
    );
  });
}
