import type { Square } from '../game/move';

/** Squares run a1 = 0, b1 = 1 … h8 = 63. */
export const fileOf = (square: Square): number => square & 7;
export const rankOf = (square: Square): number => square >> 3;
export const squareAt = (file: number, rank: number): Square => file | (rank << 3);

export const squareName = (square: Square): string =>
  String.fromCharCode(97 + fileOf(square)) + (rankOf(square) + 1);

/** The square of a name such as `e4`, or -1. */
export function squareOfName(name: string): Square {
  if (!/^[a-h][1-8]$/.test(name)) return -1;
  return squareAt(name.charCodeAt(0) - 97, name.charCodeAt(1) - 49);
}

const STEPS = [
  [0, 1],
  [1, 0],
  [0, -1],
  [-1, 0],
  [1, 1],
  [1, -1],
  [-1, -1],
  [-1, 1],
] as const;

const KNIGHT_STEPS = [
  [1, 2],
  [2, 1],
  [2, -1],
  [1, -2],
  [-1, -2],
  [-2, -1],
  [-2, 1],
  [-1, 2],
] as const;

function walk(square: Square, [df, dr]: readonly [number, number], most: number): Uint8Array {
  const reached: number[] = [];
  let file = fileOf(square) + df;
  let rank = rankOf(square) + dr;
  while (file >= 0 && file < 8 && rank >= 0 && rank < 8 && reached.length < most) {
    reached.push(squareAt(file, rank));
    file += df;
    rank += dr;
  }
  return Uint8Array.from(reached);
}

const squares = Array.from({ length: 64 }, (_, square) => square);
const leaps = (steps: readonly (readonly [number, number])[]): Uint8Array[] =>
  squares.map((square) => Uint8Array.from(steps.flatMap((step) => [...walk(square, step, 1)])));

/** For each square, the squares outward in each of eight directions: first the four of a rook, then of a bishop. */
export const RAYS: Uint8Array[][] = squares.map((square) =>
  STEPS.map((step) => walk(square, step, 8)),
);
export const KNIGHT_TARGETS = leaps(KNIGHT_STEPS);
export const KING_TARGETS = leaps(STEPS);
/** `PAWN_ATTACKS[side][square]`: what a pawn of that side on that square attacks. */
export const PAWN_ATTACKS: Uint8Array[][] = [
  leaps([
    [-1, 1],
    [1, 1],
  ]),
  leaps([
    [-1, -1],
    [1, -1],
  ]),
];

/** `DIRECTION[from * 64 + to]`: the direction in {@link RAYS} that leads from one square to the other, or -1. */
export const DIRECTION = new Int8Array(64 * 64).fill(-1);
for (const square of squares)
  RAYS[square]!.forEach((ray, direction) =>
    ray.forEach((target) => (DIRECTION[square * 64 + target] = direction)),
  );
