'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { checkGames, type CheckedGame, type WhichPreparation } from '@/contract/preparation';
import { rulesetOf } from '@/core/rulesets';
import { gameHref } from '../desk-href';
import { call } from '../call';
import { numberText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { resultKey } from '../result-key';
import type { Shown } from './shown';

const SHOWN_AT_FIRST = 10;
/** Ways in which a game and a preparation part, in the order in which they are counted. */
const WAYS = ['self', 'opponent', 'end', 'held'] as const;

const wayOf = ({ by }: CheckedGame): (typeof WAYS)[number] => by ?? 'held';

/** Where the reader's own games left what they had prepared. */
export function CheckedGames({
  which,
  onShow,
}: {
  which: WhichPreparation;
  onShow(shown: Shown): void;
}) {
  const t = useTranslations('preparation');
  const [only, setOnly] = useState<(typeof WAYS)[number] | null>(null);
  const [isWhole, setWhole] = useState(false);
  const { data: games } = useQuery({
    queryKey: ['preparation', 'games', which.kind, which.side],
    queryFn: () => call(checkGames, { query: which }),
  });
  const wanted = games?.filter((game) => only === null || wayOf(game) === only) ?? [];
  const shown = isWhole ? wanted : wanted.slice(0, SHOWN_AT_FIRST);
  return (
    <section className="quiet-box" aria-labelledby="checked">
      <h2 id="checked">{t('checked')}</h2>
      {games?.length === 0 && <p className="soft m-0">{t('noChecked')}</p>}
      {games && games.length > 0 && (
        <>
          <div className="d-flex flex-wrap gap-2 align-items-center" role="group">
            <span className="soft">{t('ofGames', { games: games.length })}</span>
            {WAYS.map((way) => {
              const count = games.filter((game) => wayOf(game) === way).length;
              return (
                <Button
                  key={way}
                  variant="plain"
                  size="sm"
                  disabled={count === 0}
                  aria-pressed={only === way}
                  onClick={() => setOnly(only === way ? null : way)}
                >
                  {t(`ways.${way}`, { count })}
                </Button>
              );
            })}
          </div>
          <table className="games-table of-rows">
            <thead>
              <tr>
                <th>{t('columns.date')}</th>
                <th className="wide">{t('columns.game')}</th>
                <th>{t('columns.result')}</th>
                <th className="wide">{t('columns.left')}</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((game) => (
                <GameRow key={game.id} kind={which.kind} game={game} onShow={onShow} />
              ))}
            </tbody>
          </table>
          {wanted.length > SHOWN_AT_FIRST && (
            <Button variant="plain" size="sm" onClick={() => setWhole(!isWhole)}>
              {isWhole ? t('fewer') : t('more', { count: wanted.length - SHOWN_AT_FIRST })}
            </Button>
          )}
        </>
      )}
    </section>
  );
}

function GameRow({
  kind,
  game,
  onShow,
}: {
  kind: WhichPreparation['kind'];
  game: CheckedGame;
  onShow(shown: Shown): void;
}) {
  const t = useTranslations('preparation');
  const results = useTranslations('results');
  const notation = useShogiNotation();
  const { id, players, result, date, by, position, move, prepared, node } = game;
  const ruleset = rulesetOf(kind);
  const before = ruleset.start(position);
  const text = (code: string): string =>
    readLine(ruleset, before, [code], null, notation)[0]?.text ?? code;
  const played = move === null ? '' : `${numberText(ruleset, before)} ${text(move)}`;
  const show = (): void => onShow({ position, move: null });
  return (
    <tr>
      <td className="text-nowrap">{date ?? '–'}</td>
      <td className="wide">
        <Link href={gameHref(id, node)} prefetch={false} onMouseEnter={show} onFocus={show}>
          {players[0] ?? '?'} – {players[1] ?? '?'}
        </Link>
      </td>
      <td>{results(resultKey({ kind, handicap: null }, result))}</td>
      <td className="wide">
        {t(`left.${by ?? 'held'}`, { move: played, prepared: prepared.map(text).join(', ') })}
      </td>
    </tr>
  );
}
