import { KING, LETTERS, PAWN, sideOf, typeOf } from '../chess/pieces';
import type { ChessPosition } from '../chess/position';
import { chess } from '../chess/ruleset';
import { fromOf, toOf, type Move } from '../game/move';
import { placeOf, type Place } from './numbering';
import type { Man, Piece } from './slice';

export type Result = 'win' | 'draw' | 'loss';

/** What a position is worth with best play, for one side; `plies` until the mate. */
export type Exact = { result: 'draw' } | { result: 'win' | 'loss'; plies: number };

/** The same for the other side. */
export const OTHER_RESULT = { win: 'loss', loss: 'win', draw: 'draw' } as const;

/** Reads a value as ending tables keep it: 0 drawn, 1 + n lost (odd) or won (even) in n plies. */
export function readValue(value: number): Exact {
  if (value === DRAWN) return { result: 'draw' };
  return { result: value % 2 === 0 ? 'win' : 'loss', plies: value - 1 };
}

/** The value of a place; null where no table has it. */
export type Look = (place: Place) => number | null;

/** What a side gets with best play, at least and at most. */
export interface Bounds {
  least: Result;
  most: Result;
}

/** Where nothing is known. */
export const OPEN: Bounds = { least: 'loss', most: 'win' };

/** What is known of a place, for the side to move there; null: nothing. */
export type LookBounds = (place: Place) => Bounds | null;

const DRAWN = 0;
/** Beside the kings: slices of more are not solved. */
const MOST_MEN = 6;

/** Orders values for whom they are: sooner wins, draws, sooner losses, the best highest. */
export const rank = (value: number): number => {
  if (value === DRAWN) return 0;
  return value % 2 === 0 ? 1000 - value : value - 1000;
};

/** The value of a move, for who makes it, by that of the position behind it. */
export const before = (value: number): number => (value === DRAWN ? DRAWN : value + 1);

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

/** How many men are on a board, kings among them. */
export const menOn = ({ board }: ChessPosition): number =>
  board.reduce((sum, piece) => sum + Number(piece !== 0), 0);

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

const RANKS = ['loss', 'draw', 'win'] as const;
const best = (results: readonly Result[]): Result =>
  RANKS[Math.max(...results.map((result) => RANKS.indexOf(result)))]!;

/** Whether a result is better than another for whom they are. */
export const isBetter = (one: Result, other: Result): boolean =>
  RANKS.indexOf(one) > RANKS.indexOf(other);

/** The bounds of a move, for who makes it, by those of the position behind it. */
const boundsBefore = ({ least, most }: Bounds): Bounds => ({
  least: OTHER_RESULT[most],
  most: OTHER_RESULT[least],
});

/** What the side to move gets at least and at most, as far as is known. */
export function boundsOf(position: ChessPosition, look: LookBounds): Bounds {
  if (position.castling !== 0) return OPEN;
  if (!position.enPassantIsLegal()) {
    const place = placeIn(position);
    if (place === 'kings alone') return { least: 'draw', most: 'draw' };
    const known = place && look(place);
    if (known) return known;
  }
  const moves = moveBounds(position, look).map(({ bounds }) => bounds);
  if (moves.length === 0) {
    const result = chess.inCheck(position) ? 'loss' : 'draw';
    return { least: result, most: result };
  }
  return {
    least: best(moves.map(({ least }) => least)),
    most: best(moves.map(({ most }) => most)),
  };
}

/** All legal moves with what who makes them gets at least and at most: looked up, not searched. */
export const moveBounds = (
  position: ChessPosition,
  look: LookBounds,
): { move: Move; bounds: Bounds }[] =>
  chess.moves(position).map((move) => {
    const behind = chess.play(position, move);
    if (behind.castling !== 0) return { move, bounds: OPEN };
    // slices know no captures in passing
    if (behind.enPassantIsLegal()) return { move, bounds: boundsBefore(boundsOf(behind, look)) };
    const place = placeIn(behind);
    if (place === 'kings alone') return { move, bounds: { least: 'draw', most: 'draw' } };
    const known = place && look(place);
    return { move, bounds: known ? boundsBefore(known) : OPEN };
  });

/** What is known of an ending, however it came to be known. */
export interface KnownEndings {
  /** By tables and by proofs, of which a mate may come sooner than they say. */
  look: Look;
  lookInTables: Look;
  bounds: LookBounds;
}

/** What a position is worth to the side to move. */
export interface Worth extends Bounds {
  /** Until the mate; null where there is none, or it is not known. */
  plies: number | null;
  /** Whether it may come sooner. */
  isAtMost: boolean;
}

const worthOfBounds = (bounds: Bounds): Worth => ({ ...bounds, plies: null, isAtMost: false });

/** @param value as {@link readValue} reads it */
const worthOfValue = (value: number, isAtMost: boolean): Worth => {
  const exact = readValue(value);
  const isMate = exact.result !== 'draw';
  return {
    least: exact.result,
    most: exact.result,
    plies: isMate ? exact.plies : null,
    isAtMost: isMate && isAtMost,
  };
};

function knownWorth(position: ChessPosition, { look, lookInTables }: KnownEndings): Worth | null {
  const value = valueOf(position, look);
  return value === null ? null : worthOfValue(value, valueOf(position, lookInTables) === null);
}

/** What a position is worth, as far as is known. */
export const worthOf = (position: ChessPosition, known: KnownEndings): Worth =>
  knownWorth(position, known) ?? worthOfBounds(boundsOf(position, known.bounds));

export interface WorthMove {
  move: Move;
  /** To who makes it; a mate is counted from the position behind it. */
  worth: Worth;
}

/** All legal moves, the best first. */
export const worthOfMoves = (position: ChessPosition, known: KnownEndings): WorthMove[] =>
  moveBounds(position, known.bounds)
    .map(({ move, bounds }): WorthMove => {
      const behind = knownWorth(chess.play(position, move), known);
      const worth = behind ? { ...behind, ...boundsBefore(behind) } : worthOfBounds(bounds);
      return { move, worth };
    })
    .sort((one, other) => orderOf(other.worth) - orderOf(one.worth));

const SLOWEST = 1000;

/** Higher for what is better: what is sure, then what may be, then sooner wins and later losses. */
function orderOf({ least, most, plies }: Worth): number {
  const distance = plies ?? SLOWEST - 1;
  const soon = most === 'loss' ? distance : SLOWEST - distance;
  return (RANKS.indexOf(least) * RANKS.length + RANKS.indexOf(most)) * SLOWEST + soon;
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
