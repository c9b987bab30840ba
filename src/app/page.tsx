import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import { countGames, listGames } from '@/server/games';
import { latestImports } from '@/server/imports';
import { currentOwner } from '@/server/owner';
import { GamesTable } from '@/ui/games/games-table';
import { ImportPanel } from '@/ui/games/import-panel';
import { Masthead } from '@/ui/shell/masthead';
import { GAME_KINDS } from '@/core/game/ruleset';

export const dynamic = 'force-dynamic';

/** Reports of imports that stay within reach. */
const EARLIER_IMPORTS = 5;

const querySchema = z.object({
  kind: z.enum(GAME_KINDS).optional().catch(undefined),
  text: z.string().max(100).optional().catch(undefined),
  page: z.coerce.number().int().min(1).max(100_000).catch(1),
});

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function GamesPage({ searchParams }: Props) {
  const t = await getTranslations('games');
  const { kind, text, page } = querySchema.parse(await searchParams);
  const owner = await currentOwner();
  const all = await countGames(owner);
  const { games, total, pages } = await listGames(
    owner,
    { ...(kind ? { kind } : {}), ...(text ? { text } : {}) },
    page,
  );
  const href = (target: number): string => {
    const query = new URLSearchParams({
      ...(kind ? { kind } : {}),
      ...(text ? { text } : {}),
      page: String(target),
    });
    return `/?${query}`;
  };
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { total })}</span>
          <form className="d-flex gap-2 ms-auto" role="search">
            <select
              name="kind"
              defaultValue={kind ?? ''}
              className="form-select"
              aria-label={t('kind')}
            >
              <option value="">{t('both')}</option>
              <option value="chess">{t('chess')}</option>
              <option value="shogi">{t('shogi')}</option>
            </select>
            <input
              name="text"
              defaultValue={text}
              className="form-control"
              style={{ width: '15rem' }}
              placeholder={t('search')}
              aria-label={t('search')}
            />
            <button className="btn btn-plain">{t('find')}</button>
          </form>
        </div>
        <ImportPanel hasGames={all > 0} earlier={await latestImports(owner, EARLIER_IMPORTS)} />
        {games.length > 0 ? (
          <GamesTable games={games} />
        ) : (
          <p className="soft">{all === 0 ? t('none') : t('noneFound')}</p>
        )}
        {pages > 1 && (
          <nav className="d-flex gap-3 justify-content-center" aria-label={t('pages')}>
            {page > 1 && <Link href={href(page - 1)}>{t('newer')}</Link>}
            <span className="soft">{t('page', { page, pages })}</span>
            {page < pages && <Link href={href(page + 1)}>{t('older')}</Link>}
          </nav>
        )}
      </main>
    </>
  );
}
