'use client';

import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import { useTranslations } from 'next-intl';
import { STRETCH } from '@/core/review/peers';
import { useDarkMode } from '../shell/theme';

const LineGraph = dynamic(() => import('../charts/line-chart').then((module) => module.LineGraph), {
  ssr: false,
});

/** Games of somebody, or of some who are alike: the share in each stretch of accuracy, as `shares` tells it, and their mean. */
export interface AccuracyRow {
  name: string;
  games: number;
  mean: number;
  shares: readonly number[];
}

/** How accurate games were, a line for each row; their means are told in words. */
export function AccuracyGraph({ rows }: { rows: readonly AccuracyRow[] }) {
  const t = useTranslations('players');
  const dark = useDarkMode();
  const lines = useMemo(() => {
    // from the first stretch that has games, and the empty one before it
    const met = Math.min(...rows.map(({ shares }) => shares.findIndex((share) => share > 0)));
    return rows.map(({ name, shares }) => ({
      name,
      points: shares
        .map((share, index) => [(index + 0.5) * STRETCH, share] as const)
        .slice(Math.max(0, met - 1)),
    }));
  }, [rows]);
  const told = rows.map(({ name, games, mean }) =>
    t('accuracyTold', { name, games, mean: mean.toFixed(1) }),
  );
  return (
    <>
      <LineGraph
        lines={lines}
        over="numbers"
        dark={dark}
        label={[t('accuracyChart'), ...told].join(' ')}
      />
      <p className="soft small m-0">{t('accuracyChart')}</p>
    </>
  );
}
