import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import type { GamePage, ListPlace } from '@/server/game-list';

interface Props {
  page: GamePage;
  /** The address of the list from a place on, one way or the other. */
  href(way: 'older' | 'newer', place: ListPlace): string;
}

/** The ways to the games before and after those that are shown. */
export async function ListPages({ page: { games, total, newer, older }, href }: Props) {
  const t = await getTranslations('games');
  if (!newer && !older) return null;
  return (
    <nav className="d-flex gap-3 justify-content-center" aria-label={t('pages')}>
      {newer && <Link href={href('newer', newer)}>{t('newer')}</Link>}
      <span className="soft">{t('shown', { shown: games.length, total })}</span>
      {older && <Link href={href('older', older)}>{t('older')}</Link>}
    </nav>
  );
}
