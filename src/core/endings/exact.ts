import { KING, LETTERS, PAWN, sideOf, typeOf } from '../chess/pieces';
import type { ChessPosition } from '../chess/position';
import { chess } from '../chess/ruleset';
import { fromOf, toOf, type Move } from '../game/move';
import { placeOf, type Place } from './numbering';
import type { Man, Piece } from './slice';

/** What a position is worth with best play, for one side; `plies` until the mate. */
export type Exact = { result: 'draw' } | { result: 'win' | 'loss'; plies: number };

/** Reads a value as ending tables keep it: 0 drawn, 1 + n lost (odd) or won (even) in n plies. */
export function readValue(value: number): Exact {
  if (value === DRAWN) return { result: 'draw' };
  return { result: value % 2 === 0 ? 'win' : 'loss', plies: value - 1 };
}

/** The value of a place; null where no table has it. */
export type Look = (place: Place) => number | null;

const DRAWN = 0;
/** Beside the kings: tables of more are not made. */
const MOST_MEN = 4;

/** Orders values for whom they are: sooner wins, draws, sooner losses, the best highest. */
const rank = (value: number): number => {
  if (value === DRAWN) return 0;
  return value % 2 === 0 ? 1000 - value : value - 1000;
};

/** The value of a move, for who makes it, by that of the position behind it. */
const before = (value: number): number => (value === DRAWN ? DRAWN : value + 1);

/** The value of a position, as tables keep it; null where they don't say, as wherever somebody may still castle. */
export function valueOf(position: ChessPosition, look: Look): number | null {
  if (position.castling !== 0) return null;
  // tables know no captures in passing: it is worth what its best move is
  if (position.enPassantIsLegal()) {
    const values = movesOf(position, look);
    return values && before(values[0]!.behind);
  }
  const place = placeIn(position);
  if (place === null) return null;
  return place === 'kings alone' ? DRAWN : look(place);
}

/** Where a position is found, or would be; null where it has more men than slices are made of. */
export function placeIn(position: ChessPosition): Place | 'kings alone' | null {
  const men: (Man & { square: number })[] = [];
  for (let square = 0; square < 64; square++) {
    const piece = position.board[square]!;
    if (piece === 0 || typeOf(piece) === KING) continue;
    if (men.length === MOST_MEN) return null;
    men.push({ side: sideOf(piece), piece: LETTERS[typeOf(piece)] as Piece, square });
  }
  return men.length === 0 ? 'kings alone' : placeOf(position.kings, men, position.side);
}

/** A move, and what the position behind it is worth to the other side. */
export interface ValuedMove {
  move: Move;
  behind: number;
}

/** All legal moves, the best first; null where tables don't say of each. */
export function movesOf(position: ChessPosition, look: Look): ValuedMove[] | null {
  const found: ValuedMove[] = [];
  for (const move of chess.moves(position)) {
    const value = valueOf(chess.play(position, move), look);
    if (value === null) return null;
    found.push({ move, behind: value });
  }
  return found.sort((one, other) => rank(before(other.behind)) - rank(before(one.behind)));
}

/** Half moves in a row without a capture or a pawn move after which a draw may be claimed (FIDE Laws of Chess 9.3). */
const FIFTY_MOVES = 100;

/** Whether along the fastest mate the fifty-move count runs out, from where it stands: a slower one may still be in time. */
export function comesTooLate(position: ChessPosition, exact: Exact, look: Look): boolean {
  if (exact.result === 'draw' || position.halfmoves + exact.plies <= FIFTY_MOVES) return false;
  let now = position;
  for (let plies = exact.plies; plies > 0; plies--) {
    if (now.halfmoves >= FIFTY_MOVES) return true;
    const [best] = movesOf(now, look) ?? [];
    if (!best) return false;
    if (isZeroing(now, best.move)) return false;
    now = chess.play(now, best.move);
  }
  return false;
}

const isZeroing = ({ board }: ChessPosition, move: Move): boolean =>
  board[toOf(move)] !== 0 || typeOf(board[fromOf(move)]!) === PAWN;
