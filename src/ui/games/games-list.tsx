'use client';

import type { GameSummary, ShownColumn } from '@/contract/library';
import { useCell } from './game-columns';
import { GameRow, GamesTable } from './games-table';

const COLUMNS: readonly ShownColumn[] = [
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
  const cell = useCell(false);
  return (
    <GamesTable columns={COLUMNS} count={games.length}>
      {games.map((game, index) => (
        <GameRow key={game.id} columns={COLUMNS} cell={cell} index={index} game={game} />
      ))}
    </GamesTable>
  );
}
