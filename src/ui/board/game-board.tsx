'use client';

import type { ChessPosition } from '@/core/chess/position';
import type { GameKind, Position } from '@/core/game/ruleset';
import type { ShogiPosition } from '@/core/shogi/position';
import { usePreferences, useShogiNotation } from '../preferences';
import type { BoardProps } from './board-props';
import { ChessBoard } from './chess-board';
import { ShogiBoard } from './shogi-board';

/** The board of either game. */
export function GameBoard({ kind, ...props }: BoardProps<Position> & { kind: GameKind }) {
  const pieces = usePreferences((state) => state.shogiPieces);
  const notation = useShogiNotation();
  if (kind === 'chess') return <ChessBoard {...(props as unknown as BoardProps<ChessPosition>)} />;
  return (
    <ShogiBoard
      {...(props as unknown as BoardProps<ShogiPosition>)}
      style={pieces}
      coordinates={notation === 'japanese' ? 'kanji' : 'letters'}
    />
  );
}
