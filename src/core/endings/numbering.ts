import { freeCount, PIECES, place, type Man, type Placing, type Slice } from './slice';

/** Where a board's square comes to lie when it is turned in one of eight ways: files mirrored (1), ranks (2), then both exchanged (4). */
export function turn(way: number, square: number): number {
  const at = square ^ (way & 1 ? 7 : 0) ^ (way & 2 ? 56 : 0);
  return way & 4 ? ((at & 7) << 3) | (at >> 3) : at;
}

const touches = (one: number, other: number): boolean =>
  Math.max(Math.abs((one & 7) - (other & 7)), Math.abs((one >> 3) - (other >> 3))) <= 1;

/**
 * Squares of two kings, one for all that are the same but for turning the board: the first king on a1–d1–d4, the second not above the long
 * diagonal where the first is on it. In the order of their numbers.
 */
const KING_PAIRS: readonly (readonly [number, number])[] = Array.from(
  { length: 64 * 64 },
  (_, at) => [at >> 6, at & 63] as const,
).filter(([first, second]) => {
  const [file, rank] = [first & 7, first >> 3];
  if (file > 3 || rank > file || touches(first, second)) return false;
  return rank < file || second >> 3 <= (second & 7);
});

const PAIR_NUMBERS = new Map(KING_PAIRS.map(([first, second], at) => [(first << 6) | second, at]));

/** For two squares the number of their pair, and above it by 16 bits the first way to turn the board for it; -1: kings can't stand so. */
const PAIR_OF = Int32Array.from({ length: 64 * 64 }, (_, at) => {
  for (let way = 0; way < 8; way++) {
    const number = PAIR_NUMBERS.get((turn(way, at >> 6) << 6) | turn(way, at & 63));
    if (number !== undefined) return (way << 16) | number;
  }
  return -1;
});

/** Where a position is found: in which slice, under which number, and with which side to move there. */
export interface Place {
  slice: Slice;
  number: number;
  toMove: 0 | 1;
}

/** Placings that were worked out, by what they are of; all are let go of where there are too many. */
const placings = new Map<string, Placing>();
const MOST_PLACINGS = 50_000;

function placingOf(men: readonly (Man & { square: number })[]): Placing {
  let name = '';
  for (const { side, piece, square } of men)
    name += String.fromCharCode(
      (side * 5 + PIECES.indexOf(piece)) * 64 + (piece === 'P' ? square : 0),
    );
  const known = placings.get(name);
  if (known) return known;
  const placing = place(
    men.map(({ side, piece, square }) =>
      piece === 'P' ? { side, piece, square } : { side, piece },
    ),
  );
  if (placings.size >= MOST_PLACINGS) placings.clear();
  placings.set(name, placing);
  return placing;
}

/**
 * The place of a position among all of its men.
 * @param kings squares of white's and of black's, not beside each other
 * @param men the others, each on its square
 */
export function placeOf(
  kings: readonly [number, number],
  men: readonly (Man & { square: number })[],
  toMove: 0 | 1,
): Place {
  const { slice, mixed, from } = placingOf(men);
  const isFlipped = (mixed & 56) !== 0;
  const [first, second] = (isFlipped ? [kings[1], kings[0]] : kings).map((king) => king ^ mixed);
  const free = freeCount(slice);
  const isPaired = slice.men.length === free;
  const pair = PAIR_OF[(first! << 6) | second!]!;
  const way = pair >> 16;
  let number = isPaired ? pair & 0xffff : (first! << 6) | second!;
  for (let at = 0; at < free; at++) {
    const square = men[from[at]!]!.square ^ mixed;
    number = number * 64 + (isPaired ? turn(way, square) : square);
  }
  return { slice, number, toMove: isFlipped ? (toMove === 0 ? 1 : 0) : toMove };
}
