import { getTranslations } from 'next-intl/server';
import { readFilter, type GameFilter } from '@/contract/game-filter';
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
import { TakeOut } from '@/ui/games/take-out';
import { Views } from '@/ui/games/views';
import { ImportPanel } from '@/ui/games/import-panel';
import { WhoIsMe } from '@/ui/players/player-tools';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from './visit';

export const dynamic = 'force-dynamic';

/** Reports of imports that stay within reach. */
const EARLIER_IMPORTS = 5;
/** Players that are asked about, whether one is the owner. */
const MOST_ASKED = 6;

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function GamesPage({ searchParams }: Props) {
  const t = await getTranslations('games');
  const asked = await searchParams;
  const wanted = readFilter(asked);
  const order = readOrder(asked.sort);
  const { player, against, collection } = wanted;
  const owner = await signedIn();
  const filter: GameFilter =
    player === owner.playerId ? { ...wanted, viewpoint: undefined } : wanted;
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
  const current = collections.find(({ id }) => id === collection) ?? null;
  const list = { filter, order, grant: null };
  const nameOf = (wanted: number | undefined): string | undefined =>
    players.find(({ id }) => id === wanted)?.name;
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-2" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { total })}</span>
          <FilterForm {...list} collections={collections} labels={labels} />
        </div>
        {asksWho && players.length > 0 && <WhoIsMe players={players.slice(0, MOST_ASKED)} />}
        <ImportPanel
          hasGames={all > 0}
          earlier={await latestImports(owner, 'library', EARLIER_IMPORTS)}
          collections={collections}
        />
        {all > 0 && <Views {...list} saved={saved} />}
        <FilterChips
          {...list}
          isSelf={player === owner.playerId}
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
              <TakeOut filter={filter} count={total} />
              <span className="ms-auto d-none d-sm-block">
                <ColumnChooser {...list} />
              </span>
            </>
          )}
        </BatchPanel>
        {total > 0 ? (
          <Library
            key={listQuery(filter, order).toString()}
            {...list}
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
