import { useTranslations } from 'next-intl';
import { gamesIn, shareInterval, shareOf, type Score, FEW_GAMES } from '@/core/game/score-share';

/** A score in figures, with what may be behind it. */
export function ScoreText({ score }: { score: Score }) {
  const t = useTranslations('players');
  const share = shareOf(score);
  const interval = shareInterval(score);
  if (share === null || !interval) return <span className="soft">{t('noScore')}</span>;
  const Share = gamesIn(score) < FEW_GAMES ? 'span' : 'strong';
  const [from, to] = interval.map((bound) => bound.toFixed(0));
  return (
    <span className={gamesIn(score) < FEW_GAMES ? 'soft' : undefined}>
      <Share>{share.toFixed(0)} %</Share>{' '}
      <span className="soft" title={t('intervalTitle')}>
        {t('interval', { from: from!, to: to! })}
      </span>{' '}
      {t('score', { ...score })}
    </span>
  );
}
