import type { Move, Square } from '@/core/game/move';
import type { Mark } from '@/core/game/tree';

export interface Arrow {
  from: Square;
  to: Square;
  tone: 'indigo' | 'seal';
}

/** What both boards show, and what they tell of clicks. */
export interface BoardProps<Position> {
  position: Position;
  flipped: boolean;
  /** The move that led here, to be shown; null: none. */
  lastMove: Move | null;
  arrows?: readonly Arrow[];
  marks?: readonly Mark[];
  /** A sentence for those who can't see the board. */
  label: string;
  input?: BoardInput | undefined;
}

/** A square, or a piece type in the hand of the side to move. */
export type Source = { square: Square } | { hand: number };

export interface BoardInput {
  source: Source | null;
  targets: readonly Square[];
  onSquare(square: Square): void;
  onHand(type: number): void;
  /** Whether the pointer can take something from there, and what it looks like meanwhile. */
  canCarry(source: Source): boolean;
  carries: 'piece' | 'arrow';
  onCarry(source: Source, to: Square): void;
}
