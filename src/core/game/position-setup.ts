import type { Square } from './move';
import type { Side } from './ruleset';

/**
 * How a position is set up by hand, piece by piece. On the way it may be none that the rules allow: that is for
 * `Ruleset.start` to say. Positions are left as they were.
 */
export interface PositionSetup<Position = unknown> {
  /** What can stand on the board, strongest first, side 0's before side 1's. */
  readonly pieces: readonly number[];
  /** A piece's letter as in FEN or SFEN. */
  letter(piece: number): string;
  /** What stands on a square; 0: nothing. */
  pieceAt(position: Position, square: Square): number;
  empty(): Position;
  /** @param piece 0: take away what stands there */
  put(position: Position, square: Square, piece: number): Position;
  turn(position: Position, side: Side): Position;
  /** Types that can be held in hand, strongest first; none in chess. */
  readonly handTypes: readonly number[];
  held(position: Position, side: Side, type: number): number;
  hold(position: Position, side: Side, type: number, count: number): Position;
  /** Castling rights, each by its letter in FEN; none in shogi. */
  readonly rights: readonly string[];
  hasRight(position: Position, right: string): boolean;
  toggleRight(position: Position, right: string): Position;
  /** Squares that a pawn can just have passed over; none in shogi. */
  passable(position: Position): readonly { square: Square; name: string }[];
  /** The square that a pawn has just passed over, or -1. */
  passed(position: Position): Square;
  pass(position: Position, square: Square): Position;
}
