'use client';

import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import { useTranslations } from 'next-intl';
import type { GameKind } from '@/core/game/ruleset';
import type { TimeClass } from '@/core/game/time-class';
import { useDarkMode } from '../shell/theme';

const LineGraph = dynamic(() => import('../charts/line-chart').then((module) => module.LineGraph), {
  ssr: false,
});

/** What somebody was rated on a day. */
export interface RatedDay {
  kind: GameKind;
  date: string;
  rating: number;
  timeClass: TimeClass | null;
}

/** Ratings over time, a line for each time class; what they were at first and last is told in words. */
export function RatingChart({ days }: { days: readonly RatedDay[] }) {
  const t = useTranslations('players');
  const dark = useDarkMode();
  const lines = useMemo(() => {
    const byName = new Map<string, [string, number][]>();
    for (const { date, rating, timeClass } of days) {
      const name = t(`timeClass.${timeClass ?? 'unknown'}`);
      byName.set(name, [...(byName.get(name) ?? []), [date, rating]]);
    }
    return [...byName].map(([name, points]) => ({ name, points }));
  }, [days, t]);
  const told = lines.map(({ name, points }) =>
    t('ratingLine', {
      name,
      first: points[0]![1],
      last: points.at(-1)![1],
      games: points.length,
    }),
  );
  return (
    <>
      <LineGraph lines={lines} over="days" dark={dark} label={told.join(' ')} />
      <p className="soft small m-0">{told.join(' ')}</p>
    </>
  );
}
