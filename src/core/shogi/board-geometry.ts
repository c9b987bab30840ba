import type { Square } from '../game/move';
import type { Side } from '../game/ruleset';
import { BISHOP, DRAGON, GOLD, HORSE, KING, LANCE, PAWN, PROMOTED, ROOK, SILVER } from './pieces';

/** Files run 1 to 9 from Black's right, ranks 1 (a) to 9 (i) from the top; 1a = 0, 1b = 1 … 9i = 80. */
export const squareAt = (file: number, rank: number): Square => (file - 1) * 9 + (rank - 1);
export const fileOf = (square: Square): number => Math.floor(square / 9) + 1;
export const rankOf = (square: Square): number => (square % 9) + 1;

export const squareName = (square: Square): string =>
  fileOf(square) + String.fromCharCode(96 + rankOf(square));

/** The square of a name such as `7g`, or -1. */
export function squareOfName(name: string): Square {
  if (!/^[1-9][a-i]$/.test(name)) return -1;
  return squareAt(name.charCodeAt(0) - 48, name.charCodeAt(1) - 96);
}

/** Rank as seen by a side: 1 is the far edge, 9 its own. */
export const rankFor = (square: Square, side: Side): number =>
  side === 0 ? rankOf(square) : 10 - rankOf(square);

/** Directions as seen on a board with Black below: N is Black's forward; opposite pairs add up to 7. */
export const N = 0;
export const E = 1;
export const NE = 2;
export const NW = 3;
export const SE = 4;
export const SW = 5;
export const W = 6;
export const S = 7;
const STEPS = [
  [0, -1],
  [-1, 0],
  [-1, -1],
  [1, -1],
  [-1, 1],
  [1, 1],
  [1, 0],
  [0, 1],
] as const;
export const opposite = (direction: number): number => 7 - direction;

const onBoard = (file: number, rank: number): boolean =>
  file >= 1 && file <= 9 && rank >= 1 && rank <= 9;

function walk(square: Square, [df, dr]: readonly [number, number]): Uint8Array {
  const reached: number[] = [];
  let file = fileOf(square) + df;
  let rank = rankOf(square) + dr;
  while (onBoard(file, rank)) {
    reached.push(squareAt(file, rank));
    file += df;
    rank += dr;
  }
  return Uint8Array.from(reached);
}

export const SQUARES = Array.from({ length: 81 }, (_, square) => square);

/** For each square, the squares outward in each of the eight directions. */
export const RAYS: Uint8Array[][] = SQUARES.map((square) =>
  STEPS.map((step) => walk(square, step)),
);

/** `KNIGHT_TARGETS[side][square]`. */
export const KNIGHT_TARGETS: Uint8Array[][] = [-2, 2].map((dr) =>
  SQUARES.map((square) =>
    Uint8Array.from(
      [-1, 1]
        .map((df) => [fileOf(square) + df, rankOf(square) + dr] as const)
        .filter(([file, rank]) => onBoard(file, rank))
        .map(([file, rank]) => squareAt(file, rank)),
    ),
  ),
);

/** `DIRECTION[from * 81 + to]`: the direction that leads from one square to the other, or -1. */
export const DIRECTION = new Int8Array(81 * 81).fill(-1);
for (const square of SQUARES)
  RAYS[square]!.forEach((ray, direction) =>
    ray.forEach((target) => (DIRECTION[square * 81 + target] = direction)),
  );

const bits = (...directions: number[]): number =>
  directions.reduce((mask, direction) => mask | (1 << direction), 0);
const ORTHOGONAL = bits(N, E, W, S);
const DIAGONAL = bits(NE, NW, SE, SW);
const GOLD_STEPS = bits(N, E, W, S, NE, NW);

/** Directions in which each type (for Black) moves one step or more. */
const stepsOfType: Record<number, number> = {
  [PAWN]: bits(N),
  [LANCE]: bits(N),
  [SILVER]: bits(N) | DIAGONAL,
  [BISHOP]: DIAGONAL,
  [ROOK]: ORTHOGONAL,
  [GOLD]: GOLD_STEPS,
  [KING]: ORTHOGONAL | DIAGONAL,
  [HORSE]: ORTHOGONAL | DIAGONAL,
  [DRAGON]: ORTHOGONAL | DIAGONAL,
};
for (const type of [PAWN, LANCE, 3, SILVER]) stepsOfType[type + PROMOTED] = GOLD_STEPS;
const slidesOfType: Record<number, number> = {
  [LANCE]: bits(N),
  [BISHOP]: DIAGONAL,
  [HORSE]: DIAGONAL,
  [ROOK]: ORTHOGONAL,
  [DRAGON]: ORTHOGONAL,
};

const mirrored = (mask: number): number => {
  let result = 0;
  const mirror = [S, E, SE, SW, NE, NW, W, N];
  for (let direction = 0; direction < 8; direction++)
    if (mask & (1 << direction)) result |= 1 << mirror[direction]!;
  return result;
};

/** By piece: the directions in which it steps (sliders included), and in which it slides. */
export const STEP_MASK = new Uint8Array(32);
export const SLIDE_MASK = new Uint8Array(32);
for (let type = 1; type < 16; type++) {
  STEP_MASK[type] = stepsOfType[type] ?? 0;
  SLIDE_MASK[type] = slidesOfType[type] ?? 0;
  STEP_MASK[type + 16] = mirrored(STEP_MASK[type]!);
  SLIDE_MASK[type + 16] = mirrored(SLIDE_MASK[type]!);
}
