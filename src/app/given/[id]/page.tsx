import type { Metadata } from 'next';
import { notFound, redirect } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import { readFilter } from '@/contract/game-filter';
import { givenFilter, givenOrder, listQuery, readOrder, STRETCH } from '@/contract/library';
import { listGivenGames, stripOf } from '@/server/library';
import { grantTo } from '@/server/grants';
import { parseId } from '@/server/ids';
import { ColumnChooser } from '@/ui/games/column-chooser';
import { FilterChips } from '@/ui/games/filter-chips';
import { FilterForm } from '@/ui/games/filter-form';
import { Library } from '@/ui/games/library';
import { Strip } from '@/ui/games/library-strip';
import { Views } from '@/ui/games/views';
import { Masthead } from '@/ui/shell/masthead';
import { visitor } from '../../visit';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('given'))('received') };
}

/** The games of a collection or of a whole library that one has been given, as their owner sees them. */
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
  const given = givenFilter(readFilter(asked), scope.of === 'collection' ? scope.id : null);
  const order = givenOrder(readOrder(asked.sort));
  const strip = await stripOf(owner, given);
  const first = await listGivenGames(owner, given, { order, count: STRETCH });
  const total = strip.games;
  // the collection goes without saying
  const filter = { ...given, collection: undefined };
  const list = { filter, order, grant: grant.id };
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-2" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">
            {grant.title === null
              ? t('allOf', { name: grant.owner })
              : t('collectionOf', { name: grant.owner, collection: grant.title })}
          </h1>
          <span className="soft">
            {games('count', { total })} · {t('youMay', { what: t(`may.${grant.right}`) })}
          </span>
          <FilterForm {...list} />
        </div>
        <Views {...list} />
        <FilterChips {...list} names={{}} />
        {total > 0 && <Strip strip={strip} />}
        {total > 0 ? (
          <>
            <span className="ms-auto d-none d-sm-block">
              <ColumnChooser {...list} />
            </span>
            <Library
              key={listQuery(filter, order).toString()}
              {...list}
              count={total}
              first={first}
            />
          </>
        ) : (
          <p className="soft">{games('noneFound')}</p>
        )}
      </main>
    </>
  );
}
