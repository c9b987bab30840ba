import type { Metadata } from 'next';
import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import { filterQuery, readFilter } from '@/contract/game-filter';
import { listFigures, MOST_FIGURES } from '@/server/game-figures';
import { FiguresTable } from '@/ui/games/figures-table';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export const dynamic = 'force-dynamic';

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('figures'))('title') };
}

/** What sweeps say of many games, side by side. */
export default async function FiguresPage({ searchParams }: Props) {
  const t = await getTranslations('figures');
  const filter = readFilter(await searchParams);
  const { rows, total } = await listFigures(await signedIn(), filter);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { count: rows.length, total })}</span>
          <Link href={`/?${filterQuery(filter)}`}>{t('back')}</Link>
        </div>
        {rows.length === 0 ? <p>{t('none')}</p> : <FiguresTable rows={rows} />}
        {rows.length >= MOST_FIGURES && <p className="soft">{t('most', { most: MOST_FIGURES })}</p>}
      </main>
    </>
  );
}
