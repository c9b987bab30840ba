/** What may stand beside the kings, on white's side. */
export type Third = 'Q' | 'R' | 'B' | 'N' | 'P';

/** Of a position that is none. */
export const NONE = -1;

/** The number of a position. @param side to move: 0 white, 1 black */
export const slowNumber = (side: number, white: number, black: number, third: number): number =>
  ((side * 64 + white) * 64 + black) * 64 + third;

const file = (square: number): number => square & 7;
const rank = (square: number): number => square >> 3;
const isNear = (one: number, other: number): boolean =>
  Math.abs(file(one) - file(other)) <= 1 && Math.abs(rank(one) - rank(other)) <= 1;

const STRAIGHT = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
];
const DIAGONAL = [
  [1, 1],
  [1, -1],
  [-1, 1],
  [-1, -1],
];
const KNIGHT = [1, 2, -1, -2].flatMap((x) =>
  [1, 2, -1, -2].filter((y) => Math.abs(x) !== Math.abs(y)).map((y) => [x, y]),
);

/** Squares that a piece reaches, up to and with the first that is taken. */
function reachOf(third: Third, from: number, isTaken: (square: number) => boolean): number[] {
  const found: number[] = [];
  const steps = third === 'N' ? KNIGHT : third === 'R' ? STRAIGHT : DIAGONAL;
  for (const [x, y] of third === 'Q' ? [...STRAIGHT, ...DIAGONAL] : steps) {
    let [column, row] = [file(from) + x!, rank(from) + y!];
    while (column >= 0 && column < 8 && row >= 0 && row < 8) {
      const square = row * 8 + column;
      found.push(square);
      if (third === 'N' || isTaken(square)) break;
      column += x!;
      row += y!;
    }
  }
  return found;
}

const kingSteps = Array.from({ length: 64 }, (_, from) =>
  Array.from({ length: 64 }, (__, to) => to).filter((to) => to !== from && isNear(from, to)),
);

/** Whether white's third piece attacks a square; black's king does not stand in its way. */
function attacks(third: Third, from: number, target: number, white: number): boolean {
  if (third === 'P')
    return rank(target) === rank(from) + 1 && Math.abs(file(target) - file(from)) === 1;
  return reachOf(third, from, (square) => square === white).includes(target);
}

/**
 * All positions of two kings and one piece of white's, worked out forwards: over and over, each position that is open is looked at
 * with all its moves. Slow, and written apart from all else that knows how pieces move.
 * @param promoted what a pawn may become that wins, by the same
 * @returns by {@link slowNumber}: 0 drawn, 1 + n lost (odd) or won (even) in n plies
 */
export function slowEnding(
  third: Third,
  promoted: Partial<Record<Third, Int16Array>> = {},
): Int16Array {
  const OPEN = 0;
  const values = new Int16Array(2 * 64 ** 3).fill(NONE);
  /** By position: where its moves lead; a capture leads to a draw, which is never worse for black than anything else, and counts as open. */
  const moves = new Map<number, { to: number[]; ends: number[] }>();
  for (let white = 0; white < 64; white++)
    for (let black = 0; black < 64; black++) {
      if (isNear(white, black)) continue;
      for (let at = 0; at < 64; at++) {
        if (at === white || at === black) continue;
        if (third === 'P' && (rank(at) === 0 || rank(at) === 7)) continue;
        const inCheck = attacks(third, at, black, white);
        const blacks = slowNumber(1, white, black, at);
        values[blacks] = OPEN;
        const own: number[] = [];
        let draws = false;
        for (const to of kingSteps[black]!) {
          if (isNear(white, to)) continue;
          if (to === at) draws = true;
          else if (!attacks(third, at, to, white)) own.push(slowNumber(0, white, to, at));
        }
        if (own.length === 0 && !draws) {
          if (inCheck) values[blacks] = 1;
        } else if (!draws) moves.set(blacks, { to: own, ends: [] });
        if (inCheck) continue;
        const whites = slowNumber(0, white, black, at);
        values[whites] = OPEN;
        const to = kingSteps[white]!.filter(
          (square) => square !== at && !isNear(square, black),
        ).map((square) => slowNumber(1, square, black, at));
        const ends: number[] = [];
        const isTaken = (square: number): boolean => square === white || square === black;
        if (third !== 'P')
          for (const square of reachOf(third, at, isTaken)) {
            if (!isTaken(square)) to.push(slowNumber(1, white, black, square));
          }
        else if (!isTaken(at + 8)) {
          if (rank(at) === 6)
            for (const table of Object.values(promoted))
              ends.push(table[slowNumber(1, white, black, at + 8)]!);
          else to.push(slowNumber(1, white, black, at + 8));
          if (rank(at) === 1 && !isTaken(at + 16)) to.push(slowNumber(1, white, black, at + 16));
        }
        moves.set(whites, { to, ends });
      }
    }
  // a promotion may win sooner than anything that is known by then, or later
  const lastEnd = Math.max(0, ...[...moves.values()].flatMap(({ ends }) => ends));
  for (let plies = 1, isNews = true; isNews || plies <= lastEnd; plies++) {
    isNews = false;
    for (const [number, { to, ends }] of moves) {
      const isBlack = number >= 64 ** 3;
      if (isBlack === (plies % 2 === 1)) continue;
      // white: something that is lost in one ply less; black: all is won, the last of it in one ply less
      const found = isBlack
        ? to.every((next) => values[next]! > OPEN) && to.length > 0
        : to.some((next) => values[next] === plies) || ends.includes(plies);
      if (!found) continue;
      values[number] = plies + 1;
      moves.delete(number);
      isNews = true;
    }
  }
  return values;
}
