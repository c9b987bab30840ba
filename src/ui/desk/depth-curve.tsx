'use client';

import { useTranslations } from 'next-intl';
import { isUnsettled, type DepthPoint } from '@/core/review/settled';

const WIDTH = 150;
const HEIGHT = 26;

/** How the evaluation moved as the search looked further, and whether it still jumps. */
export function DepthCurve({ curve }: { curve: readonly DepthPoint[] }) {
  const t = useTranslations('lines');
  const last = curve.at(-1);
  if (!last || curve.length < 2) return null;
  const unsettled = isUnsettled(curve);
  const first = curve[0]!;
  const span = Math.max(1, last.depth - first.depth);
  const x = (depth: number): number => 3 + ((depth - first.depth) / span) * (WIDTH - 6);
  const y = (chance: number): number => HEIGHT - 3 - (chance / 100) * (HEIGHT - 6);
  return (
    <div className="depth-curve">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={t('curve', {
          depth: last.depth,
          chances: curve.map(({ chance }) => Math.round(chance)).join(', '),
        })}
      >
        <line x1="0" x2={WIDTH} y1={y(50)} y2={y(50)} className="middle" />
        <polyline
          className={unsettled ? 'unsettled' : ''}
          points={curve.map(({ depth, chance }) => `${x(depth)},${y(chance)}`).join(' ')}
        />
        <circle cx={x(last.depth)} cy={y(last.chance)} r="2.6" />
      </svg>
      <span className={unsettled ? 'sign mistake' : 'soft'}>
        {t(unsettled ? 'unsettled' : 'settled')}
      </span>
    </div>
  );
}
