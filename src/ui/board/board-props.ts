import type { Move, Square } from '@/core/game/move';
import type { Mark } from '@/core/game/tree';

export interface Arrow {
  from: Square;
  to: Square;
  tone: 'indigo' | 'seal';
}

/** The position in words, for those who can't see the board, or the id of the element that has them. */
export type BoardLabel = string | { readonly id: string };

/** What both boards show, and what they tell of clicks. */
export interface BoardProps<Position> {
  position: Position;
  flipped: boolean;
  /** The move that led here, to be shown; null: none. */
  lastMove: Move | null;
  arrows?: readonly Arrow[];
  marks?: readonly Mark[];
  label: BoardLabel;
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
