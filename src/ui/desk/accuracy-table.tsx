'use client';

import { useTranslations } from 'next-intl';
import type { Departure } from '@/contract/bases';
import { type Side, SIDES } from '@/core/game/ruleset';
import { accuracies, movesFrom, type Findings } from '@/core/review/review';
import type { Verdict } from '@/core/review/verdict';
import { usePreferences } from '../preferences';
import { useSideName } from '../side-name';
import { useDesk } from './desk-store';
import { Sign } from './sign';
import { useDeparture } from './use-departures';

const COUNTED: { verdict: Verdict; nag: number }[] = [
  { verdict: 'inaccuracy', nag: 6 },
  { verdict: 'mistake', nag: 2 },
  { verdict: 'blunder', nag: 4 },
];
/** Under so many moves a figure is a hint. */
const FEW = 10;

/** How accurate either side was; on request without the moves that a base knows. */
export function AccuracyTable({ review }: { review: Findings }) {
  const t = useTranslations('review');
  const view = useDesk((state) => state.view);
  const sideName = useSideName(view.ruleset);
  const departure = useDeparture();
  const leavesOut = usePreferences((state) => state.leavesOutKnown) && departure !== null;
  const moves = leavesOut ? movesFrom(review.moves, departure.ply) : review.moves;
  const accuracy = leavesOut ? accuracies(moves) : review.accuracy;
  const count = (side: Side, verdict: Verdict): number =>
    moves.filter((found) => found?.side === side && found.verdict === verdict).length;
  return (
    <>
      <table className="accuracy-table mb-2">
        <thead>
          <tr>
            <th>
              <span className="visually-hidden">{t('player')}</span>
            </th>
            <th>{t('accuracy')}</th>
            <th>{t('meanLoss')}</th>
            {COUNTED.map(({ verdict, nag }) => (
              <th key={verdict} title={t(`verdicts.${verdict as 'blunder'}`)}>
                <Sign nag={nag} />
                <span className="visually-hidden">{t(`verdicts.${verdict as 'blunder'}`)}</span>
              </th>
            ))}
            <th>{t('moves')}</th>
          </tr>
        </thead>
        <tbody>
          {SIDES.map((side) => {
            const { value, error, moves: counted, meanLoss } = accuracy[side];
            return (
              <tr key={side} style={counted < FEW ? { opacity: 0.75 } : undefined}>
                <td>{view.info.players[side].name ?? sideName(side)}</td>
                <td>
                  <strong>{value === null ? '–' : value.toFixed(1)}</strong>
                  {error !== null && (
                    <span className="soft"> {t('error', { error: error.toFixed(1) })}</span>
                  )}
                </td>
                <td>{meanLoss === null ? '–' : meanLoss.toFixed(1)}</td>
                {COUNTED.map(({ verdict }) => (
                  <td key={verdict}>{count(side, verdict)}</td>
                ))}
                <td>{counted}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {departure && <KnownMoves departure={departure} />}
      {accuracy.some(({ moves: counted }) => counted > 0 && counted < FEW) && (
        <p className="soft small mb-2">{t('fewMoves')}</p>
      )}
    </>
  );
}

/** Whether the moves that a base knows count. */
function KnownMoves({ departure: { base, ply } }: { departure: Departure }) {
  const t = useTranslations('review');
  const plies = useDesk(({ view }) => view.line.length);
  const leavesOut = usePreferences((state) => state.leavesOutKnown);
  const set = usePreferences((state) => state.set);
  return (
    <label className="small soft d-flex gap-2 mb-2">
      <input
        type="checkbox"
        checked={leavesOut}
        onChange={({ target }) => set({ leavesOutKnown: target.checked })}
      />
      {t('leaveOutKnown', { count: (ply ?? plies + 1) - 1, base: base.name })}
    </label>
  );
}
