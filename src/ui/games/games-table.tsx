'use client';

import Link from 'next/link';
import { memo, type ReactNode, type Ref } from 'react';
import { isOrdered, type GameSummary, type Order, type ShownColumn } from '@/contract/library';
import { columnClass, firstWay } from './game-columns';
import { useLibraryWords } from './library-words';
import { ChooseAll, ChooseGame } from './selection';

interface HeadProps {
  columns: readonly ShownColumn[];
  /** Whether what is one side's is the reader's. */
  isOwn: boolean;
  /** Whether games can be chosen, to do something with many at once. */
  isChosen: boolean;
  /** How they are ordered, and the address of the list in another order. */
  order: { now: Order; href(order: Order): string };
}

interface Props extends HeadProps {
  /** Of all games, not only of those that are in the page. */
  count: number;
  /** The rows, each a {@link GameRow}. */
  children: ReactNode;
  ref: Ref<HTMLTableSectionElement>;
}

/** A table of games under the names of its columns, by which it can be ordered. */
export function GamesTable({ count, children, ref, ...head }: Props) {
  return (
    <div className="games-scroll quiet-box p-0">
      <table className="games-table of-rows" aria-rowcount={count + 1}>
        <Head {...head} />
        <tbody ref={ref}>{children}</tbody>
      </table>
    </div>
  );
}

/** Not drawn anew while rows come and go. */
const Head = memo(function Head({ columns, isOwn, isChosen, order }: HeadProps) {
  const words = useLibraryWords(isOwn);
  return (
    <thead>
      <tr aria-rowindex={1}>
        {isChosen && (
          <th>
            <ChooseAll />
          </th>
        )}
        {columns.map((column) => {
          const way = order.now.by === column ? order.now.way : null;
          const next = way === null ? firstWay(column) : way === 'up' ? 'down' : 'up';
          return (
            <th
              key={column}
              className={columnClass(column)}
              aria-sort={way === null ? undefined : way === 'up' ? 'ascending' : 'descending'}
            >
              {isOrdered(column) ? (
                <Link href={order.href({ by: column, way: next })} prefetch={false} scroll={false}>
                  {words.column(column)}
                  <span aria-hidden="true">{way === null ? '' : way === 'up' ? ' ↑' : ' ↓'}</span>
                </Link>
              ) : (
                words.column(column)
              )}
            </th>
          );
        })}
      </tr>
    </thead>
  );
});

interface RowProps {
  columns: readonly ShownColumn[];
  /** What a column says, as {@link useCell} tells. */
  cell: (column: ShownColumn, game: GameSummary) => ReactNode;
  /** The label of the field that chooses a game; absent: none is chosen. */
  choice: ((game: GameSummary) => string) | undefined;
  index: number;
  /** null: it is still on its way. */
  game: GameSummary | null;
  measure: Ref<HTMLTableRowElement> | undefined;
}

/** A row of such a table; one that stays in sight while the list is moved is not drawn anew. */
export const GameRow = memo(function GameRow({
  columns,
  cell,
  choice,
  index,
  game,
  measure,
}: RowProps) {
  return (
    <tr
      ref={measure}
      data-index={index}
      aria-rowindex={index + 2}
      aria-busy={game === null || undefined}
    >
      {choice && <td>{game && <ChooseGame id={game.id} label={choice(game)} />}</td>}
      {columns.map((column) => (
        <td key={column} className={columnClass(column)}>
          {game ? cell(column, game) : column === 'players' ? '…' : ''}
        </td>
      ))}
    </tr>
  );
});
