import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import { filterQuery, readFilter } from '@/contract/game-filter';
import { countGames, listGames, type ListPlace } from '@/server/game-list';
import { listCollections } from '@/server/collections';
import { listBatches } from '@/server/batches';
import { latestImports } from '@/server/imports';
import { listPlayers } from '@/server/players';
import { settings } from '@/server/settings';
import { settingsText } from '@/core/review/sweep-settings';
import { BatchPanel } from '@/ui/games/batch-panel';
import { CollectionTools } from '@/ui/games/collection-tools';
import { GamesTable } from '@/ui/games/games-table';
import { ListPages } from '@/ui/games/list-pages';
import { ImportPanel } from '@/ui/games/import-panel';
import { WhoIsMe } from '@/ui/players/player-tools';
import { Masthead } from '@/ui/shell/masthead';
import { GAME_KINDS } from '@/core/game/ruleset';
import { formatKind } from '@/core/notation/formats';
import { listQuerySchema, placeQuery, stretchOf } from './list-query';
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
  const { kind, text, player, against, collection } = filter;
  const owner = await signedIn();
  const all = await countGames(owner);
  const query = filterQuery(filter);
  const collections = await listCollections(owner);
  const current = collections.find(({ id }) => id === collection) ?? null;
  const players = player || owner.playerId === null ? await listPlayers(owner) : [];
  const named = players.filter(({ id }) => id === player || id === against);
  const page = await listGames(owner, filter, stretchOf(listQuerySchema.parse(asked)));
  const { games, total } = page;
  const href = (way: 'older' | 'newer', place: ListPlace): string =>
    `/?${query}&${placeQuery(way, place)}`;
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { total })}</span>
          <form className="search-form" role="search">
            {player && <input type="hidden" name="player" value={player} />}
            {against && <input type="hidden" name="against" value={against} />}
            <select
              name="kind"
              defaultValue={kind ?? ''}
              className="form-select"
              aria-label={t('kind')}
            >
              <option value="">{t('both')}</option>
              {GAME_KINDS.map((one) => (
                <option key={one} value={one}>
                  {t(one)}
                </option>
              ))}
            </select>
            {collections.length > 0 && (
              <select
                name="collection"
                defaultValue={collection ?? ''}
                className="form-select"
                aria-label={t('collection')}
              >
                <option value="">{t('anyCollection')}</option>
                {collections.map(({ id, name, games: count }) => (
                  <option key={id} value={id}>
                    {t('inCollection', { name, count })}
                  </option>
                ))}
              </select>
            )}
            <input
              name="text"
              defaultValue={text}
              className="form-control"
              placeholder={t('search')}
              aria-label={t('search')}
            />
            <button className="btn btn-plain text-nowrap">{t('find')}</button>
          </form>
        </div>
        {owner.playerId === null && players.length > 0 && (
          <WhoIsMe players={players.slice(0, MOST_ASKED)} />
        )}
        {named.length > 0 && (
          <p className="m-0">
            {t('onlyOf', { names: named.map(({ name }) => name).join(' – ') })}{' '}
            <Link href="/">{t('allAgain')}</Link>
          </p>
        )}
        <ImportPanel hasGames={all > 0} earlier={await latestImports(owner, EARLIER_IMPORTS)} />
        <BatchPanel
          filter={filter}
          count={total}
          usual={settingsText(settings().sweep)}
          known={await listBatches(owner)}
        />
        <CollectionTools collections={collections} current={current} />
        {total > 0 && (
          <nav className="d-flex gap-3 flex-wrap" aria-label={t('out')}>
            <Link href={`/figures?${query}`} prefetch={false}>
              {t('figures')}
            </Link>
            {OUT.filter(([format]) => format === 'csv' || !kind || formatKind(format) === kind).map(
              ([format, findings]) => (
                <a
                  key={format}
                  href={`/api/games/export?format=${format}&findings=${findings}&${query}`}
                  download
                >
                  {t(`as.${format}`)}
                </a>
              ),
            )}
          </nav>
        )}
        {games.length > 0 ? (
          <GamesTable games={games} canChoose />
        ) : (
          <p className="soft">{all === 0 ? t('none') : t('noneFound')}</p>
        )}
        <ListPages page={page} href={href} />
      </main>
    </>
  );
}
