import { place, PIECES, type Man, type Piece, type Slice } from './slice';

/** Names of all sets of so many pieces, kings among them, the stronger side first: KQK, KRKP … */
export function setsOf(pieces: number): string[] {
  const sets = new Set<string>();
  const add = (men: readonly Man[]): void => {
    if (men.length === pieces - 2) return void sets.add(setOf(place(men).slice));
    for (const piece of PIECES)
      for (const side of [0, 1] as const)
        add([...men, { side, piece, ...(piece === 'P' ? { square: 8 + men.length } : {}) }]);
  };
  add([]);
  return [...sets].sort();
}

/** The fewest pieces of a set with anything beside the kings. */
const LEAST_PIECES = 3;

/** Names of all sets of up to so many pieces, those of fewer first; none below three. */
export const setsUpTo = (pieces: number): string[] =>
  Array.from({ length: Math.max(0, pieces - LEAST_PIECES + 1) }, (_, more) =>
    setsOf(LEAST_PIECES + more),
  ).flat();

export const setOf = ({ key }: Slice): string => key.split(' ', 1)[0]!;

/** All slices of a set. @param set as {@link setsOf} names it */
export function slicesOf(set: string): Slice[] {
  const slices = new Map<string, Slice>();
  const [white = '', black = ''] = set.split('K').slice(1);
  const wanted = [white, black].flatMap((letters, side) =>
    Array.from(letters, (piece) => ({ side: side as 0 | 1, piece: piece as Piece })),
  );
  const add = (men: readonly Man[]): void => {
    const next = wanted[men.length];
    if (!next) {
      const { slice } = place(men);
      slices.set(slice.key, slice);
    } else if (next.piece !== 'P') add([...men, next]);
    else
      for (let square = 8; square < 56; square++)
        if (men.every((man) => man.square !== square)) add([...men, { ...next, square }]);
  };
  add([]);
  return [...slices.values()];
}
