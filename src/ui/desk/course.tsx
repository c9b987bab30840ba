'use client';

import { useMemo, useState } from 'react';
import dynamic from 'next/dynamic';
import { Dialog } from '../dialog/dialog';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { positionsAlong } from '@/core/game/tree';
import { accuracyOf } from '@/core/review/accuracy';
import { phasesAlong } from '@/core/review/phases';
import { signOfNag, VERDICT_NAG } from '@/core/review/verdict';
import { GameBoard } from '../board/game-board';
import type { CoursePoint, Stretch } from '../charts/course-chart';
import { clockText } from '../format';
import { moveText, numberText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { useIdle } from '../use-idle';
import { useDarkMode } from '../shell/theme';
import { useReview } from './desk-review';
import { useDesk, useDeskStore } from './desk-store';
import { useDeparture } from './use-departures';
import { useMateText } from './use-mate-text';
import { isOpenSweep, SweepControl } from './sweep-control';

const CourseChart = dynamic(() => import('../charts/course-chart').then((m) => m.CourseChart), {
  ssr: false,
});

/** A ply as the course shows it, with what its table says. */
interface Row extends CoursePoint {
  name: string;
  left: number | null;
  /** Words of mates that the move missed, or allowed. */
  mates: readonly string[];
  spent: number | null;
}

function useRows(): Row[] {
  const t = useTranslations('course');
  const view = useDesk((state) => state.view);
  const notation = useShogiNotation();
  const { review } = useReview();
  const { ruleset, moves, times, firstSide } = view;
  const { start } = view.record.tree;
  const sideName = useSideName(ruleset);
  const mateText = useMateText();
  return useMemo(() => {
    const line = moves.map((move) => ({ move }));
    const positions = positionsAlong(ruleset, start, line);
    const phases = phasesAlong(ruleset, positions);
    return positions.map((_, ply) => {
      const chance = review?.course[ply]?.chance ?? null;
      const isExact = review?.course[ply]?.origin.by === 'tables';
      const found = review?.moves[ply - 1];
      const move = moves[ply - 1];
      const { spent = null, left = null } = times[ply - 1] ?? {};
      const before = positions[ply - 1]!;
      const name =
        move === undefined
          ? t('start')
          : `${numberText(ruleset, before)} ${moveText(ruleset, before, move, moves[ply - 2] ?? null, notation)}`;
      const mates = found ? mateText(found) : [];
      const verdict = found?.verdict ?? 'none';
      const sign = verdict === 'none' ? '' : signOfNag(VERDICT_NAG[verdict]);
      return {
        name,
        chance,
        isExact,
        spent,
        left,
        seconds: spent === null ? null : spent / 1000,
        side: move === undefined ? null : (((firstSide + ply - 1) % 2) as 0 | 1),
        label: [
          `${name} ${sign}`.trim(),
          ...(chance === null
            ? []
            : [t('chance', { side: sideName(0), chance: Math.round(chance) })]),
          ...(isExact ? [t('exact')] : []),
          ...mates,
          ...(spent === null ? [] : [clockText(spent)]),
        ].join(' · '),
        verdict,
        turns: found?.isTurningPoint ?? false,
        mates,
        intoMate: found?.walksIntoMate ?? false,
        sign,
        phase: t(`phases.${phases[ply]!}`),
      };
    });
  }, [ruleset, start, moves, times, firstSide, review, notation, t, sideName, mateText]);
}

/** The course of the game under the board, in step with it both ways. */
export function Course() {
  const t = useTranslations('course');
  const store = useDeskStore();
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const { review, sweep } = useReview();
  const dark = useDarkMode();
  const idle = useIdle();
  const rows = useRows();
  const sideName = useSideName(view.ruleset);
  const departure = useDeparture();
  const [stretch, setStretch] = useState<Stretch | null>(null);
  const [hovered, setHovered] = useState<{ ply: number; left: number } | null>(null);
  const [asTable, setAsTable] = useState(false);
  /** A turning point opens just before its move, so that one can think first. */
  const pick = (ply: number): void => store.getState().goToPly(rows[ply]?.turns ? ply - 1 : ply);
  return (
    <section className="course" aria-label={t('label')}>
      {idle && (
        <CourseChart
          points={rows}
          ply={view.plyOf(node)}
          stretch={stretch}
          onPick={pick}
          onStretch={setStretch}
          onHover={(ply, left) => setHovered(left === null ? null : { ply, left })}
          label={t('chartLabel', { moves: view.line.length })}
          known={
            departure && {
              to: (departure.ply ?? view.line.length + 1) - 1,
              label: t('known', { base: departure.base.name }),
            }
          }
          dark={dark}
        />
      )}
      {review && (
        <span className="course-axis" aria-hidden="true">
          {t('axis', { side: sideName(0) })}
        </span>
      )}
      {hovered && <HoveredPosition ply={hovered.ply} left={hovered.left} />}
      {stretch && <StretchSummary stretch={stretch} onClear={() => setStretch(null)} />}
      {view.line.length > 0 && (
        <Button variant="plain" className="course-table-button" onClick={() => setAsTable(true)}>
          {t('table')}
        </Button>
      )}
      {asTable && <CourseTable rows={rows} onClose={() => setAsTable(false)} onPick={pick} />}
      {(!review || isOpenSweep(sweep?.state)) && view.line.length > 0 && (
        <div className={review ? 'course-under-way' : 'course-empty'}>
          <SweepControl />
        </div>
      )}
    </section>
  );
}

const HOVER_SIZE = 176;

function HoveredPosition({ ply, left }: { ply: number; left: number }) {
  const view = useDesk((state) => state.view);
  const flipped = useDesk((state) => state.flipped);
  const node = view.nodeAtPly(ply);
  return (
    <div
      className="course-hover"
      data-testid="course-hover"
      style={{
        left: Math.max(8, Math.min(left - HOVER_SIZE / 2, window.innerWidth - HOVER_SIZE - 8)),
        width: HOVER_SIZE,
        height: HOVER_SIZE,
      }}
      aria-hidden="true"
    >
      <GameBoard
        kind={view.ruleset.kind}
        position={view.positionOf(node)}
        flipped={flipped}
        lastMove={view.moveTo(node)}
        label=""
      />
    </div>
  );
}

/** What each side gave away in a stretch of the game. */
function StretchSummary({ stretch, onClear }: { stretch: Stretch; onClear(): void }) {
  const t = useTranslations('course');
  const view = useDesk((state) => state.view);
  const { ruleset, line } = view;
  const sideName = useSideName(ruleset);
  const { review } = useReview();
  const number = (ply: number): number =>
    ruleset.moveNumber(view.positionOf(line[Math.max(0, ply - 1)]!.parent!));
  const sideText = (side: 0 | 1): string => {
    const found = (review?.moves ?? []).slice(stretch.from, stretch.to);
    const own = found.flatMap((move) => (move?.side === side ? [move] : []));
    const { meanLoss, moves } = accuracyOf(own);
    const name = sideName(side);
    return meanLoss === null
      ? t('stretchNone', { side: name })
      : t('stretchSide', { side: name, loss: meanLoss.toFixed(1), moves });
  };
  return (
    <div className="course-summary" role="status">
      <strong>{t('stretch', { from: number(stretch.from + 1), to: number(stretch.to) })}</strong>
      <span>{sideText(0)}</span>
      <span>{sideText(1)}</span>
      <Button variant="plain" onClick={onClear}>
        {t('clear')}
      </Button>
    </div>
  );
}

/** The course for those who would rather read it. */
function CourseTable({
  rows,
  onClose,
  onPick,
}: {
  rows: readonly Row[];
  onClose(): void;
  onPick(ply: number): void;
}) {
  const t = useTranslations('course');
  const sideName = useSideName(useDesk(({ view }) => view.ruleset));
  return (
    <Dialog size="lg" title={t('label')} closeText={t('closeTable')} onClose={onClose}>
      <table className="games-table">
        <thead>
          <tr>
            <th>{t('move')}</th>
            <th>{t('chanceOf', { side: sideName(0) })}</th>
            <th>{t('verdict')}</th>
            <th>{t('spent')}</th>
            <th>{t('left')}</th>
            <th>{t('phase')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ name, chance, isExact, sign, mates, spent, left, phase }, ply) => (
            <tr key={ply}>
              <td>
                <button
                  type="button"
                  className="inline-move"
                  onClick={() => {
                    onPick(ply);
                    onClose();
                  }}
                >
                  {name}
                </button>
              </td>
              <td>
                {chance === null ? '' : `${Math.round(chance)} %`}
                {isExact && <span className="soft"> {t('exact')}</span>}
              </td>
              <td>{[sign, ...mates].filter(Boolean).join(' ')}</td>
              <td>{spent === null ? '' : clockText(spent)}</td>
              <td>{left === null ? '' : clockText(left)}</td>
              <td>{phase}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Dialog>
  );
}
