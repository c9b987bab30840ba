'use client';

import {
  memo,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type Ref,
} from 'react';
import { useTranslations } from 'next-intl';
import { useWindowVirtualizer, type Range } from '@tanstack/react-virtual';
import { useQueries } from '@tanstack/react-query';
import { filterQuery } from '@/contract/game-filter';
import {
  givenColumns,
  isOwnSide,
  libraryHref,
  listGames,
  listGiven,
  orderText,
  STRETCH,
  type GameList,
  type GameSummary,
  type Order,
} from '@/contract/library';
import { call } from '../call';
import { usePreferences } from '../preferences';
import { useMedia } from '../use-media';
import { useCell } from './game-columns';
import { GameRow, GamesTable } from './games-table';
import { useSelection } from './selection';

/** Pixels of a row that has not been measured: as high as those that were, so that a place in the list stays where it is. */
let usualRow = 32;
/** Where a row may take several lines; elsewhere all are as high, and measuring them would cost as much as drawing them. */
const NARROW = '(max-width: 767px)';
/** Rows come and go so many at a time: laying out and painting the table costs as much for one. */
const BLOCK = 4;
/** Games are asked for when they are so many rows away, so that they are there before they come into sight. */
const AHEAD = 60;

/** The rows of the blocks in sight, and of the next one either way. */
function rowsOf({ startIndex, endIndex, count }: Range): number[] {
  const from = Math.max(0, Math.floor(startIndex / BLOCK) - 1) * BLOCK;
  const to = Math.min(count, (Math.floor(endIndex / BLOCK) + 2) * BLOCK);
  return Array.from({ length: to - from }, (_, index) => from + index);
}

/** The stretches in which rows lie that are drawn, or soon will be. @param to without it */
function stretchesAbout(from: number, to: number, count: number): number[] {
  const first = Math.floor(Math.max(0, from - AHEAD) / STRETCH);
  const last = Math.floor((Math.min(count, to + AHEAD) - 1) / STRETCH);
  return Array.from({ length: last + 1 - first }, (_, index) => first + index);
}

interface List extends GameList {
  count: number;
  /** The first stretch of them. */
  first: readonly GameSummary[];
}

/** All games of a filter in an order: those in sight are drawn, and asked for as they come into sight. */
export function Library({ filter, order, grant, count, first }: List) {
  const body = useRef<HTMLTableSectionElement>(null);
  const [above, setAbove] = useState(0);
  const reset = useSelection((state) => state.reset);
  const query = filterQuery(filter).toString();
  useEffect(() => reset(count), [reset, query, count]);

  // what is above the table may grow and shrink
  useLayoutEffect(() => {
    const measure = (): void => {
      const { top } = body.current?.getBoundingClientRect() ?? { top: 0 };
      setAbove(Math.round(top + window.scrollY));
      const row = body.current?.querySelector('tr[data-index]');
      if (row) usualRow = row.getBoundingClientRect().height;
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(document.body);
    return () => observer.disconnect();
  }, []);
  const virtual = useWindowVirtualizer({
    count,
    estimateSize: () => usualRow,
    rangeExtractor: rowsOf,
    useFlushSync: false,
    scrollMargin: above,
    initialRect: { width: 1280, height: 800 },
  });
  const isNarrow = useMedia(NARROW);
  const rows = virtual.getVirtualItems();
  const last = rows.at(-1);
  return (
    <Drawn
      filter={filter}
      order={order}
      grant={grant}
      count={count}
      first={first}
      from={rows[0]?.index ?? 0}
      to={last ? last.index + 1 : 0}
      before={(rows[0]?.start ?? above) - above}
      behind={virtual.getTotalSize() - ((last?.end ?? above) - above)}
      body={body}
      measure={isNarrow ? virtual.measureElement : undefined}
    />
  );
}

interface DrawnRows extends List {
  /** Rows that are drawn, without the last, and pixels of the others. */
  from: number;
  to: number;
  before: number;
  behind: number;
  body: Ref<HTMLTableSectionElement>;
  measure: Ref<HTMLTableRowElement> | undefined;
}

/** The table, drawn anew only when rows come or go. */
const Drawn = memo(function Drawn({
  filter,
  order,
  grant,
  count,
  first,
  from,
  to,
  before,
  behind,
  body,
  measure,
}: DrawnRows) {
  const chosen = usePreferences((state) => state.columns);
  const columns = useMemo(() => (grant === null ? chosen : givenColumns(chosen)), [grant, chosen]);
  const query = filterQuery(filter).toString();
  const sort = orderText(order);
  const rows = Array.from({ length: to - from }, (_, index) => from + index);
  const stretches = stretchesAbout(from, to, count);
  const found = useQueries({
    queries: stretches.map((stretch) => ({
      queryKey: ['games', grant, query, sort, stretch, count, first[0]?.id],
      queryFn: async () => {
        const asked = { ...Object.fromEntries(filterQuery(filter)), sort };
        const part = { ...asked, from: stretch * STRETCH, count: STRETCH };
        const { games } = await (grant === null
          ? call(listGames, { query: part })
          : call(listGiven, { id: grant, query: part }));
        return games;
      },
      staleTime: 60_000,
    })),
  });
  const known = new Map<number, readonly GameSummary[]>(
    stretches.flatMap((stretch, index) => {
      const games = stretch === 0 ? first : found[index]?.data;
      return games ? [[stretch, games] as const] : [];
    }),
  );
  const ordering = useMemo(
    () => ({ now: order, href: (next: Order) => libraryHref(filter, next, grant) }),
    [filter, order, grant],
  );
  const isOwn = isOwnSide({ filter, order, grant });
  const cell = useCell(isOwn);
  const t = useTranslations('games');
  const choice = useCallback(
    ({ players: [one, other] }: GameSummary): string =>
      t('choose', { first: one ?? '?', second: other ?? '?' }),
    [t],
  );
  return (
    <GamesTable
      ref={body}
      columns={columns}
      isOwn={isOwn}
      isChosen={grant === null}
      count={count}
      order={ordering}
    >
      {before > 0 && <tr aria-hidden="true" style={{ height: before }} />}
      {rows.map((index) => (
        <GameRow
          key={index}
          columns={columns}
          cell={cell}
          choice={grant === null ? choice : undefined}
          index={index}
          game={known.get(Math.floor(index / STRETCH))?.[index % STRETCH] ?? null}
          measure={measure}
        />
      ))}
      {behind > 0 && <tr aria-hidden="true" style={{ height: behind }} />}
    </GamesTable>
  );
});
