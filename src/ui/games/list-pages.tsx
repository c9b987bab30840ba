import Link from 'next/link';
import { getTranslations } from 'next-intl/server';

interface Props {
  /** Games before those that are shown, those that are, and all. */
  from: number;
  shown: number;
  total: number;
  /** Games of a page. */
  size: number;
  /** The address of the list from a place on. */
  href(from: number): string;
}

/** The ways to the games before and after those that are shown. */
export async function ListPages({ from, shown, total, size, href }: Props) {
  const t = await getTranslations('games');
  const hasOlder = from + shown < total;
  if (from === 0 && !hasOlder) return null;
  return (
    <nav className="d-flex gap-3 justify-content-center" aria-label={t('pages')}>
      {from > 0 && <Link href={href(Math.max(0, from - size))}>{t('newer')}</Link>}
      <span className="soft">{t('shown', { shown, total })}</span>
      {hasOlder && <Link href={href(from + shown)}>{t('older')}</Link>}
    </nav>
  );
}
