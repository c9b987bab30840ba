import type { Metadata } from 'next';
import { notFound, redirect } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import { filterQuery, readFilter } from '@/contract/game-filter';
import { listGames, type ListPlace } from '@/server/game-list';
import { grantTo } from '@/server/grants';
import { parseId } from '@/server/ids';
import { GamesTable } from '@/ui/games/games-table';
import { ListPages } from '@/ui/games/list-pages';
import { Masthead } from '@/ui/shell/masthead';
import { listQuerySchema, placeQuery, stretchOf } from '../../list-query';
import { visitor } from '../../visit';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('given'))('received') };
}

/** The games of a collection or of a whole library that one has been given. */
export default async function GivenGamesPage({ params, searchParams }: Props) {
  const t = await getTranslations('given');
  const games = await getTranslations('games');
  const asker = await visitor();
  const id = parseId((await params).id);
  const found = id === null ? null : await grantTo(asker, id);
  if (!found) return asker.account ? notFound() : redirect('/given?gone=1');
  const { grant, owner } = found;
  const { scope } = grant;
  if (scope.of === 'game') redirect(`/games/${scope.id}`);
  const asked = await searchParams;
  const { text } = readFilter(asked);
  const page = await listGames(
    owner,
    { text, collection: scope.of === 'collection' ? scope.id : undefined },
    stretchOf(listQuerySchema.parse(asked)),
  );
  const href = (way: 'older' | 'newer', place: ListPlace): string =>
    `/given/${grant.id}?${filterQuery({ text })}&${placeQuery(way, place)}`;
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">
            {grant.title === null
              ? t('allOf', { name: grant.owner })
              : t('collectionOf', { name: grant.owner, collection: grant.title })}
          </h1>
          <span className="soft">
            {games('count', { total: page.total })} · {t(`may.${grant.right}`)}
          </span>
          <form className="search-form" role="search">
            <input
              name="text"
              defaultValue={text}
              className="form-control"
              placeholder={games('search')}
              aria-label={games('search')}
            />
            <button className="btn btn-plain text-nowrap">{games('find')}</button>
          </form>
        </div>
        {page.games.length > 0 ? (
          <GamesTable games={page.games} />
        ) : (
          <p className="soft">{games('noneFound')}</p>
        )}
        <ListPages page={page} href={href} />
      </main>
    </>
  );
}
