import type { Metadata } from 'next';
import { notFound, redirect } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import { filterQuery, readFilter } from '@/contract/game-filter';
import { listGames, stripOf } from '@/server/library';
import { grantTo } from '@/server/grants';
import { parseId } from '@/server/ids';
import { GamesList } from '@/ui/games/games-list';
import { ListPages } from '@/ui/games/list-pages';
import { Masthead } from '@/ui/shell/masthead';
import { visitor } from '../../visit';

/** Games of a page. */
const PAGE = 50;

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
  if (scope.of === 'base') redirect('/bases');
  const asked = await searchParams;
  const { text } = readFilter(asked);
  const filter = { text, collection: scope.of === 'collection' ? scope.id : undefined };
  const from = parseId(String(asked.from)) ?? 0;
  const shown = await listGames(owner, filter, { from, count: PAGE });
  const total = (await stripOf(owner, filter)).games;
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
            {games('count', { total: total })} · {t('youMay', { what: t(`may.${grant.right}`) })}
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
        {shown.length > 0 ? (
          <GamesList games={shown} />
        ) : (
          <p className="soft">{games('noneFound')}</p>
        )}
        <ListPages
          from={from}
          shown={shown.length}
          total={total}
          size={PAGE}
          href={(place) => `/given/${grant.id}?${filterQuery({ text })}&from=${place}`}
        />
      </main>
    </>
  );
}
