'use client';

import { useMemo } from 'react';
import dynamic from 'next/dynamic';
import { useTranslations } from 'next-intl';
import type { CoursePoint } from '../charts/course-chart';
import { clockText } from '../format';
import { moveText, numberText } from '../move-text';
import { usePreferences } from '../preferences';
import { useDarkMode } from '../shell/theme';
import { useReview } from './desk-review';
import { useDesk, useDeskStore } from './desk-store';
import { signOfNag, VERDICT_NAG } from '@/core/review/verdict';
import { SweepControl } from './sweep-control';

const CourseChart = dynamic(() => import('../charts/course-chart').then((m) => m.CourseChart), {
  ssr: false,
});

/** The course of the game under the board, in step with it both ways. */
export function Course() {
  const t = useTranslations('course');
  const store = useDeskStore();
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const notation = usePreferences((state) => state.shogiNotation);
  const { review } = useReview();
  const dark = useDarkMode();
  const points = useMemo<CoursePoint[]>(() => {
    const first = view.ruleset.sides[0];
    return Array.from({ length: view.line.length + 1 }, (_, ply) => {
      const chance = review?.course[ply] ?? null;
      const found = review?.moves[ply - 1];
      const move = view.line[ply - 1];
      const spent = view.timeAtPly(ply)?.spent ?? null;
      const name = move
        ? `${numberText(view.ruleset, view.positionOf(move.parent!))} ${moveText(view.ruleset, view.positionOf(move.parent!), move.move, view.moveTo(move.parent!), notation)}`
        : t('start');
      const verdict = found?.verdict ?? 'none';
      const sign = verdict === 'none' ? '' : signOfNag(VERDICT_NAG[verdict]);
      return {
        chance,
        seconds: spent === null ? null : spent / 1000,
        side: move ? (((view.firstSide + ply - 1) % 2) as 0 | 1) : null,
        label: [
          `${name} ${sign}`.trim(),
          ...(chance === null
            ? []
            : [t('chance', { side: t(`sides.${first}`), chance: Math.round(chance) })]),
          ...(spent === null ? [] : [clockText(spent)]),
        ].join(' · '),
        verdict,
        turns: found?.isTurningPoint ?? false,
        sign,
      };
    });
  }, [view, review, notation, t]);
  return (
    <section className="course" aria-label={t('label')}>
      <CourseChart
        points={points}
        ply={view.plyOf(node)}
        onPick={(ply) => store.getState().goToPly(ply)}
        label={t('chartLabel', { moves: view.line.length })}
        dark={dark}
      />
      {!review && view.line.length > 0 && (
        <div className="course-empty">
          <SweepControl />
        </div>
      )}
    </section>
  );
}
