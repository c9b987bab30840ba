import { getTranslations } from 'next-intl/server';
import { filterQuery, readFilter } from '@/contract/game-filter';
import { listQuery, readOrder, STRETCH } from '@/contract/library';
import { countGames, listGames, listLabels, stripOf } from '@/server/library';
import { listCollections } from '@/server/collections';
import { listBatches } from '@/server/batches';
import { listFilters } from '@/server/saved-filters';
import { latestImports } from '@/server/imports';
import { listPlayers } from '@/server/players';
import { settings } from '@/server/settings';
import { settingsText } from '@/core/review/sweep-settings';
import { BatchPanel } from '@/ui/games/batch-panel';
import { BulkTools } from '@/ui/games/bulk-tools';
import { ColumnChooser } from '@/ui/games/column-chooser';
import { FilterChips } from '@/ui/games/filter-chips';
import { FilterForm } from '@/ui/games/filter-form';
import { Library } from '@/ui/games/library';
import { Strip } from '@/ui/games/library-strip';
import { Views } from '@/ui/games/views';
import { ImportPanel } from '@/ui/games/import-panel';
import { WhoIsMe } from '@/ui/players/player-tools';
import { Masthead } from '@/ui/shell/masthead';
import { formatKind } from '@/core/notation/formats';
import { signedIn } from './visit';

export const dynamic = 'force-dynamic';

/** Reports of imports that stay within reach. */
const EARLIER_IMPORTS = 5;
/** What the games of a filter can be taken out as, and whether with what sweeps have found. */
const OUT = [
  ['pgn', 1],
  ['kif', 1],
  ['csv', 0],
] as const;
/** Players that are asked about, whether one is the owner. */
const MOST_ASKED = 6;

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function GamesPage({ searchParams }: Props) {
  const t = await getTranslations('games');
  const asked = await searchParams;
  const filter = readFilter(asked);
  const order = readOrder(asked.sort);
  const { kind, player, against, collection } = filter;
  const owner = await signedIn();
  const asksWho = owner.playerId === null;
  const [all, strip, games, collections, labels, saved, players] = await Promise.all([
    countGames(owner),
    stripOf(owner, filter),
    listGames(owner, filter, { order, count: STRETCH }),
    listCollections(owner),
    listLabels(owner),
    listFilters(owner),
    player !== undefined || asksWho ? listPlayers(owner) : [],
  ]);
  const total = strip.games;
  const query = filterQuery(filter).toString();
  const current = collections.find(({ id }) => id === collection) ?? null;
  const nameOf = (wanted: number | undefined): string | undefined =>
    players.find(({ id }) => id === wanted)?.name;
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-2" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { total })}</span>
          <FilterForm filter={filter} order={order} collections={collections} labels={labels} />
        </div>
        {asksWho && players.length > 0 && <WhoIsMe players={players.slice(0, MOST_ASKED)} />}
        <ImportPanel
          hasGames={all > 0}
          earlier={await latestImports(owner, 'library', EARLIER_IMPORTS)}
          collections={collections}
        />
        {all > 0 && (
          <Views
            saved={saved}
            query={listQuery(filter, order).toString()}
            isFiltered={query !== ''}
          />
        )}
        <FilterChips
          filter={filter}
          order={order}
          names={{
            player: nameOf(player),
            against: nameOf(against),
            collection: current?.name,
          }}
        />
        {total > 0 && <Strip strip={strip} />}
        <BulkTools
          filter={filter}
          collections={collections}
          labels={labels}
          current={current}
          gone={typeof asked.gone === 'string' ? asked.gone : null}
        />
        <BatchPanel
          filter={filter}
          count={total}
          usual={settingsText(settings().sweep)}
          known={await listBatches(owner)}
        >
          {total > 0 && (
            <>
              <nav className="one-row" aria-label={t('out')}>
                {OUT.filter(
                  ([format]) => format === 'csv' || !kind || formatKind(format) === kind,
                ).map(([format, findings]) => (
                  <a
                    key={format}
                    href={`/api/games/export?format=${format}&findings=${findings}&${query}`}
                    download
                  >
                    {t(`as.${format}`)}
                  </a>
                ))}
              </nav>
              <span className="ms-auto d-none d-sm-block">
                <ColumnChooser />
              </span>
            </>
          )}
        </BatchPanel>
        {total > 0 ? (
          <Library
            key={listQuery(filter, order).toString()}
            filter={filter}
            order={order}
            count={total}
            first={games}
          />
        ) : (
          <p className="soft">
            {filter.deleted ? t('noneDeleted') : all === 0 ? t('none') : t('noneFound')}
          </p>
        )}
      </main>
    </>
  );
}
