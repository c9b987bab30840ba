'use client';

import { useMemo } from 'react';
import { useTranslations } from 'next-intl';
import { PHASES, type Side, SIDES } from '@/core/game/ruleset';
import { wholeLoss } from '@/core/review/chance';
import type { Findings } from '@/core/review/review';
import { summaryOf, type SideSummary } from '@/core/review/summary';
import { useSideName } from '../side-name';
import { notedPlies } from './desk-keys';
import { useDesk } from './desk-store';
import { MoveLink } from './move-link';

const seconds = (milliseconds: number): string =>
  (milliseconds / 1000).toFixed(milliseconds < 10_000 ? 1 : 0);

/** How a game went, and what it came to for either side: once all of it has been looked at. */
export function ReviewSummary({ review }: { review: Findings }) {
  const t = useTranslations('summary');
  const phase = useTranslations('course.phases');
  const view = useDesk((state) => state.view);
  const sideName = useSideName(view.ruleset);
  const { trend, sides } = useMemo(() => summaryOf(review), [review]);
  if (!trend) return null;
  const isTimed = sides.some(({ time }) => time !== null);
  return (
    <>
      <p className="mb-2" data-testid="trend">
        {t(`trend.${trend.trend}`, { side: trend.side === null ? 'none' : sideName(trend.side) })}
        {trend.ply !== null && (
          <>
            {' · '}
            {t('since')} <MoveLink ply={trend.ply} />
          </>
        )}
      </p>
      <table className="accuracy-table mb-2">
        <thead>
          <tr>
            <th>{t('lossBy')}</th>
            {SIDES.map((side) => (
              <th key={side}>{sideName(side)}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {PHASES.map((name) => {
            const found = sides.map(({ phases }) => phases.find((one) => one.phase === name));
            return (
              found.some(Boolean) && (
                <tr key={name}>
                  <td>{phase(name)}</td>
                  {SIDES.map((side) => (
                    <MeanCell
                      key={side}
                      value={found[side]?.meanLoss.toFixed(1)}
                      of={found[side]?.moves}
                    />
                  ))}
                </tr>
              )
            );
          })}
          {isTimed && (
            <tr>
              <td>{t('time')}</td>
              {sides.map(({ time }, side) => (
                <MeanCell key={side} value={time && seconds(time.mean)} of={time?.moves} />
              ))}
            </tr>
          )}
          {isTimed && (
            <tr>
              <td>{t('timeAtErrors')}</td>
              {sides.map(({ time }, side) => (
                <MeanCell
                  key={side}
                  value={time?.atErrors === null ? null : time && seconds(time.atErrors)}
                  of={time?.errors}
                />
              ))}
            </tr>
          )}
        </tbody>
      </table>
      {SIDES.map((side) => (
        <SideRemarks key={side} side={side} summary={sides[side]} />
      ))}
      <Noted />
    </>
  );
}

/** Under so many moves a mean is a hint. */
const FEW = 5;

function MeanCell({ value, of = 0 }: { value: string | null | undefined; of: number | undefined }) {
  return (
    <td className={of < FEW ? 'soft' : undefined}>
      {value ?? '–'} {value && <span className="soft small">({of})</span>}
    </td>
  );
}

/** What is to be said of one side's moves, each with the way there. */
function SideRemarks({ side, summary }: { side: Side; summary: SideSummary }) {
  const t = useTranslations('summary');
  const sideName = useSideName(useDesk(({ view }) => view.ruleset));
  const { letOffs, missedMates, drifts, met } = summary;
  const remarks: { name: 'letOffs' | 'missedMates' | 'drifts' | 'met'; plies: number[] }[] = [
    { name: 'missedMates', plies: [...missedMates] },
    { name: 'letOffs', plies: letOffs.map(({ ply }) => ply) },
    { name: 'met', plies: [...met] },
  ];
  const said = remarks.filter(({ plies }) => plies.length > 0);
  if (said.length === 0 && drifts.length === 0) return null;
  return (
    <div className="small mb-2">
      <strong>{sideName(side)}</strong>
      {said.map(({ name, plies }) => (
        <p key={name} className="m-0">
          {t(name, { count: plies.length })}{' '}
          {plies.map((ply) => (
            <MoveLink key={ply} ply={ply} />
          ))}
        </p>
      ))}
      {drifts.map(({ from, to, loss }) => (
        <p key={from} className="m-0">
          {t('drift', { loss: wholeLoss(loss) })} <MoveLink ply={from} /> – <MoveLink ply={to} />
        </p>
      ))}
    </div>
  );
}

/** How many moments are listed; the others are gone through by their key. */
const MOST_NOTED = 20;

/** The moves at which somebody wrote something, each with the way there. */
function Noted() {
  const t = useTranslations('summary');
  const view = useDesk((state) => state.view);
  const plies = notedPlies(view);
  if (plies.length === 0) return null;
  return (
    <p className="small mb-2" data-testid="noted">
      {t('noted', { count: plies.length })}{' '}
      {plies.slice(0, MOST_NOTED).map((ply) => (
        <MoveLink key={ply} ply={ply} />
      ))}{' '}
      {plies.length > MOST_NOTED && (
        <span className="soft">{t('more', { count: plies.length - MOST_NOTED })}</span>
      )}
    </p>
  );
}
