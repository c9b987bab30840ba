'use client';

import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useWindowVirtualizer, type Range } from '@tanstack/react-virtual';
import { useQueries } from '@tanstack/react-query';
import { filterQuery, type GameFilter } from '@/contract/game-filter';
import {
  libraryHref,
  listGames,
  orderText,
  STRETCH,
  type GameSummary,
  type Order,
} from '@/contract/library';
import { call } from '../call';
import { usePreferences } from '../preferences';
import { useCell } from './game-columns';
import { GameRow, GamesTable } from './games-table';
import { useSelection } from './selection';

/** Pixels of a row that has not been measured: as high as those that were, so that a place in the list stays where it is. */
let usualRow = 32;
/** Rows come and go so many at a time: laying out and painting the table costs as much for one. */
const BLOCK = 8;

/** The rows of the blocks in sight, and of the next one either way. */
function rowsOf({ startIndex, endIndex, count }: Range): number[] {
  const from = Math.max(0, Math.floor(startIndex / BLOCK) - 1) * BLOCK;
  const to = Math.min(count, (Math.floor(endIndex / BLOCK) + 2) * BLOCK);
  return Array.from({ length: to - from }, (_, index) => from + index);
}

/** All games of a filter in an order: those in sight are drawn, and asked for as they come into sight. */
export function Library({
  filter,
  order,
  count,
  first,
}: {
  filter: GameFilter;
  order: Order;
  count: number;
  /** The first stretch of them. */
  first: readonly GameSummary[];
}) {
  const columns = usePreferences((state) => state.columns);
  const query = filterQuery(filter).toString();
  const sort = orderText(order);
  const body = useRef<HTMLTableSectionElement>(null);
  const [above, setAbove] = useState(0);
  const reset = useSelection((state) => state.reset);
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
  const rows = virtual.getVirtualItems();
  const stretches = [...new Set(rows.map(({ index }) => Math.floor(index / STRETCH)))];
  const found = useQueries({
    queries: stretches.map((stretch) => ({
      queryKey: ['games', query, sort, stretch, count, first[0]?.id],
      queryFn: async () => {
        const asked = { ...Object.fromEntries(filterQuery(filter)), sort };
        const from = stretch * STRETCH;
        const { games } = await call(listGames, { query: { ...asked, from, count: STRETCH } });
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
  const cell = useCell(true);
  const before = (rows[0]?.start ?? above) - above;
  const behind = virtual.getTotalSize() - ((rows.at(-1)?.end ?? above) - above);
  return (
    <GamesTable
      ref={body}
      columns={columns}
      isOwn
      count={count}
      order={{ now: order, href: (next) => libraryHref(filter, next) }}
    >
      {before > 0 && <tr aria-hidden="true" style={{ height: before }} />}
      {rows.map(({ index }) => (
        <GameRow
          key={index}
          columns={columns}
          cell={cell}
          isOwn
          index={index}
          game={known.get(Math.floor(index / STRETCH))?.[index % STRETCH] ?? null}
          measure={virtual.measureElement}
        />
      ))}
      {behind > 0 && <tr aria-hidden="true" style={{ height: behind }} />}
    </GamesTable>
  );
}
