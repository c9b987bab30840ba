import { useTranslations } from 'next-intl';

/** In how many of 100 games, as a figure and a stroke. */
export function Expected({ games }: { games: number | null }) {
  const t = useTranslations('preparation');
  if (games === null) return null;
  const text = games >= 10 ? games.toFixed(0) : games.toFixed(1);
  return (
    <span className="expected" title={t('expected', { games: text })}>
      <span className="stroke" style={{ width: `${Math.min(100, games)}%` }} aria-hidden="true" />
      {text}
    </span>
  );
}
