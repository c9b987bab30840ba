'use client';

import { answerThought } from '@/contract/review';
import { weigh, type Weighed } from '@/core/ask/weigh';
import { wholeLoss } from '@/core/review/chance';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import type { Ruleset, Side, Position } from '@/core/game/ruleset';
import { chanceOf } from '@/core/review/chance';
import { usePlan, within } from '../desk/use-plan';
import { scoreText } from '../format';
import { LineText } from '../line-text';
import { moveText, numberText, readLine } from '../move-text';
import { call } from '../call';
import { useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { useThoughts, type Thought } from './think-store';

const WEIGH_MS = 4000;
const SHOWN_MOVES = 8;

/** What was entered, what was best and what was played, weighed at equal depth. */
export function ThinkAnswer({
  gameId,
  ruleset,
  position,
  history,
  side,
  walk,
  stop,
  thought,
}: {
  gameId: number;
  ruleset: Ruleset;
  position: Position;
  history: readonly Position[];
  side: Side | null;
  walk: string;
  stop: number;
  thought: Thought;
}) {
  const t = useTranslations('think');
  const notation = useShogiNotation();
  const sideName = useSideName(ruleset);
  const { run, stop: stopWeighing, failed } = usePlan(ruleset.kind);
  const [weighed, setWeighed] = useState<readonly Weighed[]>([]);
  const { code } = thought;
  const { data, isError } = useQuery({
    queryKey: ['think', walk, stop, code],
    queryFn: () => call(answerThought, { id: gameId, body: { side, stop, move: code } }),
    staleTime: Infinity,
  });
  const mover = ruleset.side(position);
  useEffect(() => {
    if (!data) return;
    const candidates = [...new Set([code, data.best, data.played])];
    const task = {
      kind: ruleset.kind,
      root: ruleset.searchRoot(position, history),
      side: mover,
      candidates,
    };
    void run(weigh(task, within(WEIGH_MS)), setWeighed);
    return stopWeighing;
  }, [data, code, ruleset, position, history, mover, run, stopWeighing]);

  const textOf = (move: string): string =>
    moveText(ruleset, position, ruleset.parseCode(move)!, null, notation);
  const chance = (one: Weighed): number => chanceOf(ruleset.kind, one.line.score, mover);
  const best = weighed.toSorted((a, b) => chance(b) - chance(a))[0];
  const costOf = (move: string | undefined): number | null => {
    const one = weighed.find((candidate) => candidate.code === move);
    return best && one ? chance(best) - chance(one) : null;
  };
  const cost = costOf(code);
  const playedCost = costOf(data?.played);
  const bestText = best ? textOf(best.code) : null;
  const ownText = textOf(code);
  useEffect(() => {
    if (!data || cost === null || playedCost === null || bestText === null) return;
    const result = {
      yours: { text: ownText, cost },
      played: { text: textOf(data.played), cost: playedCost },
      best: bestText,
      number: numberText(ruleset, position),
      position: ruleset.write(position),
      node: data.node,
      isTurningPoint: data.isTurningPoint,
    };
    useThoughts.getState().keep(walk, stop, { ...thought, result });
    // kept anew with each depth, not with each keeping
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [walk, stop, cost, playedCost, bestText, ownText]);

  if (isError) return <p role="alert">{t('failed')}</p>;
  if (!data) return <p className="soft">{t('looking')}</p>;
  const roles: [role: 'yours' | 'best' | 'played', move: string][] = [
    ['yours', code],
    ['best', best?.code ?? data.best],
    ['played', data.played],
  ];
  const { rank, linesKnown } = data;
  const place =
    linesKnown < 2
      ? t(rank === null ? 'notCompared' : 'sweepBest')
      : rank === null
        ? t('outside', { lines: linesKnown })
        : t('rank', { rank, lines: linesKnown });
  return (
    <div data-testid="think-answer">
      <p className="m-0" role="status">
        {cost === null
          ? !failed && t('weighing')
          : cost < 1
            ? t('found', { move: ownText })
            : t('costs', { move: ownText, loss: wholeLoss(cost), best: bestText! })}{' '}
        {place} {data.isTurningPoint && t('turned')}
      </p>
      {failed && <p role="alert">{t('engineFailed')}</p>}
      <table className="lines-table mt-2">
        <thead className="visually-hidden">
          <tr>
            <th>{t('role')}</th>
            <th>{t('score')}</th>
            <th>{t('chance')}</th>
            <th>{t('line')}</th>
          </tr>
        </thead>
        <tbody>
          {roles.map(([role, move]) => {
            const one = weighed.find((candidate) => candidate.code === move);
            const line = readLine(
              ruleset,
              position,
              (one?.line.moves ?? [move]).slice(0, SHOWN_MOVES),
              null,
              notation,
            );
            return (
              <tr key={role}>
                <th className="soft text-nowrap">{t(role)}</th>
                <td className="score">
                  {one ? scoreText(one.line.score, mover, ruleset) : failed ? '–' : '…'}
                </td>
                <td className="text-nowrap">{one ? `${Math.round(chance(one))} %` : ''}</td>
                <td>
                  <LineText line={line} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="soft small m-0 mt-1">
        {best && t('depth', { depth: best.depth, side: sideName(mover) })}{' '}
        <Link href={`/games/${gameId}?node=${data.node}`} prefetch={false}>
          {t('onDesk')}
        </Link>
      </p>
    </div>
  );
}
