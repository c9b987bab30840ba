'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { wholeLoss } from '@/core/review/chance';
import { FLAGS, signOfNag, VERDICT_NAG } from '@/core/review/verdict';
import type { FiguresRow } from '@/server/game-figures';

const column = createColumnHelper<FiguresRow>();

const POINTS: Record<number, 'won' | 'drawn' | 'lost'> = { 1: 'won', 0.5: 'drawn', 0: 'lost' };

/** On fewer moves a figure is a hint. */
const FEW = 10;

/** Figures of many games, in whatever order is asked for; each opens just before its worst moment. */
export function FiguresTable({ rows }: { rows: FiguresRow[] }) {
  const t = useTranslations('figures');
  const trends = useTranslations('figures.trends');
  const verdicts = useTranslations('review.verdicts');
  const [sorting, setSorting] = useState<SortingState>([{ id: 'accuracy', desc: false }]);
  const columns = [
    column.accessor('date', { header: t('date'), cell: (cell) => cell.getValue() ?? '–' }),
    column.accessor('player', { header: t('player'), cell: (cell) => cell.getValue() ?? '?' }),
    column.accessor('opponent', { header: t('opponent'), cell: (cell) => cell.getValue() ?? '?' }),
    column.accessor((row) => points(row), {
      id: 'result',
      header: t('result'),
      cell: (cell) => t(`points.${POINTS[cell.getValue() ?? -1] ?? 'none'}`),
    }),
    column.accessor(({ figures }) => figures.accuracy ?? undefined, {
      id: 'accuracy',
      header: t('accuracy'),
      sortUndefined: 'last',
      cell: ({ row: { original } }) => {
        const { accuracy, error } = original.figures;
        return (
          <>
            <strong>{accuracy?.toFixed(1) ?? '–'}</strong>
            {error !== null && <span className="soft">{` ± ${error.toFixed(1)}`}</span>}
          </>
        );
      },
    }),
    column.accessor(({ figures }) => figures.meanLoss ?? undefined, {
      id: 'meanLoss',
      header: t('meanLoss'),
      sortUndefined: 'last',
      cell: (cell) => cell.getValue()?.toFixed(1) ?? '–',
    }),
    ...FLAGS.toReversed().map((flag) =>
      column.accessor(({ figures }) => figures.flags[flag], {
        id: flag,
        header: () => (
          <>
            <span aria-hidden="true">{signOfNag(VERDICT_NAG[flag])}</span>
            <span className="visually-hidden">{verdicts(flag)}</span>
          </>
        ),
      }),
    ),
    column.accessor(({ figures }) => figures.worst?.loss ?? 0, {
      id: 'worst',
      header: t('worst'),
      cell: ({ row: { original } }) => {
        const { gameId, figures } = original;
        return figures.worst ? (
          <Link
            href={`/games/${gameId}?ply=${figures.worst.ply - 1}`}
            className="move-link"
            prefetch={false}
          >
            {t('worstMove', { loss: wholeLoss(figures.worst.loss), ply: figures.worst.ply })}
          </Link>
        ) : (
          <Link href={`/games/${gameId}`} className="move-link" prefetch={false}>
            {t('noWorst')}
          </Link>
        );
      },
    }),
    column.accessor('trend', {
      header: t('trend'),
      cell: (cell) => {
        const trend = cell.getValue();
        return trend ? trends(trend) : '–';
      },
    }),
    column.accessor(({ figures }) => figures.moves, { id: 'moves', header: t('moves') }),
  ];
  // what the table gives is made anew with each sort
  // eslint-disable-next-line react-hooks/incompatible-library
  const table = useReactTable({
    data: rows,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  return (
    <div className="table-responsive quiet-box p-0">
      <table className="table table-hover games-table figures-table">
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map((header) => {
                const sorted = header.column.getIsSorted();
                return (
                  <th
                    key={header.id}
                    aria-sort={sorted ? (sorted === 'asc' ? 'ascending' : 'descending') : 'none'}
                  >
                    <button type="button" onClick={header.column.getToggleSortingHandler()}>
                      {flexRender(header.column.columnDef.header, header.getContext())}
                      <span aria-hidden="true">
                        {sorted ? (sorted === 'asc' ? ' ↑' : ' ↓') : ''}
                      </span>
                    </button>
                  </th>
                );
              })}
            </tr>
          ))}
        </thead>
        <tbody>
          {table.getRowModel().rows.map((row) => (
            <tr key={row.id} className={row.original.figures.moves < FEW ? 'soft' : undefined}>
              {row.getVisibleCells().map((cell) => (
                <td key={cell.id}>{flexRender(cell.column.columnDef.cell, cell.getContext())}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What the side scored; null where the game has no result. */
function points({ result, side }: FiguresRow): 0 | 0.5 | 1 | null {
  if (result === '*') return null;
  if (result === '1/2-1/2') return 0.5;
  return (result === '1-0') === (side === 0) ? 1 : 0;
}
