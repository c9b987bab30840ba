'use client';

import type { Column, GameSummary } from '@/contract/library';
import { GamesTable, useGameRow } from './games-table';

const COLUMNS: readonly Column[] = [
  'date',
  'kind',
  'players',
  'outcome',
  'accuracy',
  'event',
  'moves',
];

/** A page of somebody else's games. */
export function GamesList({ games }: { games: readonly GameSummary[] }) {
  const row = useGameRow(COLUMNS);
  return (
    <GamesTable columns={COLUMNS} count={games.length}>
      {games.map((game, index) => row(game, index))}
    </GamesTable>
  );
}
