/** What may stand beside the kings, in the order in which men are numbered. */
export const PIECES = ['Q', 'R', 'B', 'N', 'P'] as const;
export type Piece = (typeof PIECES)[number];
const WORTH: Readonly<Record<Piece, number>> = { Q: 9, R: 5, B: 3.1, N: 3, P: 1 };

/** A man beside the kings; a pawn stands on its square, a1 = 0 … h8 = 63, others anywhere. */
export interface Man {
  side: 0 | 1;
  piece: Piece;
  /** Of a pawn alone. */
  square?: number;
}

/**
 * All positions of some men whose pawns stand on fixed squares, with the stronger side as white and, of a board and its mirror image, the one
 * whose pawns stand on the lower squares. Such slices are what ending tables are made of: a move inside one moves no pawn and captures nothing.
 */
export interface Slice {
  /** In their order: the free men of white, of black, then the pawns of white, of black. */
  men: readonly Man[];
  /** Its name, as `KRPKR e4`. */
  key: string;
}

/** How men are turned into those of a slice. */
export interface Placing {
  slice: Slice;
  /** What squares are mixed with (xor): 56 where its sides are the other way round, 7 where its files are. */
  mixed: number;
  /** For each man of the slice, which of the given it is. */
  from: readonly number[];
}

export const FLIPPED = 56;
const MIRRORED = 7;

const isPawn = ({ piece }: Man): boolean => piece === 'P';
const sideText = (side: 0 | 1, men: readonly Man[]): string => {
  let letters = 'K';
  for (const piece of PIECES)
    for (const man of men) if (man.side === side && man.piece === piece) letters += piece;
  return letters;
};
const worth = (side: 0 | 1, men: readonly Man[]): number => {
  let sum = 0;
  for (const man of men) if (man.side === side) sum += WORTH[man.piece];
  return sum;
};

const squareName = (square: number): string => `${'abcdefgh'[square & 7]}${(square >> 3) + 1}`;

/** Men in the order of a slice. */
const compared = (one: Man, other: Man): number =>
  Number(isPawn(one)) - Number(isPawn(other)) ||
  one.side - other.side ||
  PIECES.indexOf(one.piece) - PIECES.indexOf(other.piece) ||
  (one.square ?? 0) - (other.square ?? 0);

/** The slice that some men belong to. */
export function place(men: readonly Man[]): Placing {
  const [own, others] = [worth(0, men), worth(1, men)];
  const [ownText, othersText] = [sideText(0, men), sideText(1, men)];
  const isEven = own === others && ownText === othersText;
  const isWeaker = own < others || (own === others && ownText > othersText);
  const hasPawns = men.some(isPawn);
  const flips = isEven && hasPawns ? [0, FLIPPED] : [isWeaker ? FLIPPED : 0];
  const mirrors = hasPawns ? [0, MIRRORED] : [0];
  let mixed = flips[0]!;
  let order: string | null = null;
  for (const flip of flips)
    for (const mirror of mirrors) {
      const other = pawnOrder(men, flip | mirror);
      if (order !== null && other >= order) continue;
      mixed = flip | mirror;
      order = other;
    }
  return placedBy(men, mixed);
}

const sideBy = (side: 0 | 1, mixed: number): 0 | 1 =>
  mixed & FLIPPED ? (side === 0 ? 1 : 0) : side;

/** The squares of white's pawns, then of black's, in an order that can be compared. */
function pawnOrder(men: readonly Man[], mixed: number): string {
  const pawns: number[] = [];
  for (const { side, square } of men)
    if (square !== undefined) pawns.push(64 * sideBy(side, mixed) + (square ^ mixed));
  pawns.sort((one, other) => one - other);
  return String.fromCharCode(...pawns.map((pawn) => pawn & 63));
}

function placedBy(men: readonly Man[], mixed: number): Placing {
  const turned = men.map(({ side, piece, square }, from) => ({
    from,
    man: (square === undefined
      ? { side: sideBy(side, mixed), piece }
      : { side: sideBy(side, mixed), piece, square: square ^ mixed }) as Man,
  }));
  turned.sort((one, other) => compared(one.man, other.man));
  const placed = turned.map(({ man }) => man);
  let key = sideText(0, placed) + sideText(1, placed);
  for (const { square } of placed) if (square !== undefined) key += ` ${squareName(square)}`;
  return { slice: { men: placed, key }, mixed, from: turned.map(({ from }) => from) };
}

export const freeCount = ({ men }: Slice): number => men.filter((man) => !isPawn(man)).length;

/** Pairs of kings, the same but for turning and mirroring the board, and of all squares. */
export const PAIRED_KINGS = 462;
const ALL_KINGS = 4096;

/** How many numbers a slice has for positions of one side to move. */
export const sizeOf = (slice: Slice): number =>
  (slice.men.some(isPawn) ? ALL_KINGS : PAIRED_KINGS) * 64 ** freeCount(slice);

/** White's king where there are no pawns: a1–d1–d4. */
const CORNER_SQUARES = 10;

/** How many rows of positions, which differ in the square of black's king alone, the solver keeps of a slice. */
export const rowsOf = (slice: Slice): number =>
  (slice.men.some(isPawn) ? 64 : CORNER_SQUARES) * 64 ** freeCount(slice);

/** Of slices, with each side to move. */
export const positionsOf = (slices: readonly Slice[]): number =>
  slices.reduce((sum, slice) => sum + 2 * sizeOf(slice), 0);

/** Kinds of moves that leave a slice, as the solver numbers them: promotions by what becomes of the pawn, its captures by their way. */
const BY_CAPTURE = 0;
const BY_PUSH = 1;
const BY_LEAP = 2;
const BY_PROMOTION = 3;
const BY_PAWN_CAPTURE = 7;
const BY_PROMOTING_CAPTURE = 9;
const BY_PASSING = 13;
const PROMOTIONS = ['Q', 'R', 'B', 'N'] as const;

/** A move that leaves a slice: its kind, the men in it, and what remains; null: kings alone. */
export interface Way {
  kind: number;
  /** Numbers of men, the kings being 0 and 1. */
  mover: number;
  other: number;
  placing: Placing | null;
}

/** What kind of move leaves a slice, and whose. */
export type WayKind = Pick<Way, 'kind' | 'mover'>;

/** Whether a pawn becomes something else by a move of a kind. */
export const promotes = ({ kind }: WayKind): boolean =>
  (kind >= BY_PROMOTION && kind < BY_PAWN_CAPTURE) ||
  (kind >= BY_PROMOTING_CAPTURE && kind < BY_PASSING);

/** Whether a move of a kind is a pawn's without a capture. */
export const isPush = ({ kind }: WayKind): boolean => kind === BY_PUSH || kind === BY_LEAP;

/** Ways that were worked out, by slices' keys; all are let go of where there are too many. */
const ways = new Map<string, readonly Way[]>();
const MOST_WAYS = 10_000;

/** Ways out of a slice. Men are numbered with the kings before them. */
export function waysOf(slice: Slice): readonly Way[] {
  const known = ways.get(slice.key);
  if (known) return known;
  const found = waysOut(slice);
  if (ways.size >= MOST_WAYS) ways.clear();
  ways.set(slice.key, found);
  return found;
}

/** Ways out of a slice, of all kinds unless it is said which. Men are numbered with the kings before them. */
export function waysOut({ men }: Slice, follows: (way: WayKind) => boolean = () => true): Way[] {
  const ways: Way[] = [];
  /** @param remaining the men that are left, with their numbers here */
  const add = (
    kind: number,
    mover: number,
    other: number,
    remaining: readonly { man: Man; number: number }[],
  ): void => {
    if (!follows({ kind, mover })) return;
    if (remaining.length === 0) return void ways.push({ kind, mover, other, placing: null });
    const { slice, mixed, from } = place(remaining.map(({ man }) => man));
    ways.push({
      kind,
      mover,
      other,
      placing: { slice, mixed, from: from.map((at) => remaining[at]!.number) },
    });
  };
  const all = men.map((man, index) => ({ man, number: index + 2 }));
  const without = (...gone: number[]) => all.filter(({ number }) => !gone.includes(number));
  const moved = (number: number, man: Man, ...gone: number[]) =>
    without(...gone).map((one) => (one.number === number ? { number, man } : one));
  for (const { number } of all) add(BY_CAPTURE, 0, number, without(number));
  for (const { man, number } of all) {
    if (man.square === undefined) continue;
    const { side, square } = man;
    const up = side === 0 ? 8 : -8;
    const to = square + up;
    const isLast = to >> 3 === (side === 0 ? 7 : 0);
    const pawnAt = (there: number): number | undefined =>
      all.find((one) => one.man.square === there)?.number;
    if (isLast)
      PROMOTIONS.forEach((piece, rank) =>
        add(BY_PROMOTION + rank, number, 0, moved(number, { side, piece })),
      );
    else if (pawnAt(to) === undefined) {
      add(BY_PUSH, number, 0, moved(number, { ...man, square: to }));
      if (square >> 3 === (side === 0 ? 1 : 6) && pawnAt(to + up) === undefined)
        add(BY_LEAP, number, 0, moved(number, { ...man, square: to + up }));
    }
    for (const { man: taken, number: other } of all) {
      if (taken.side === side) continue;
      if (isLast) {
        if (taken.square === undefined)
          PROMOTIONS.forEach((piece, rank) =>
            add(BY_PROMOTING_CAPTURE + rank, number, other, moved(number, { side, piece }, other)),
          );
        continue;
      }
      for (const [way, files] of [-1, 1].entries()) {
        const file = (square & 7) + files;
        if (file < 0 || file > 7) continue;
        const there = to + files;
        const pawn = pawnAt(there);
        const behind = { ...man, square: there };
        if (taken.square === undefined ? pawn === undefined : pawn === other)
          add(BY_PAWN_CAPTURE + way, number, other, moved(number, behind, other));
        // a pawn that may yet pass this one by two steps
        if (
          taken.square === there + up &&
          there >> 3 === (side === 0 ? 5 : 2) &&
          pawn === undefined
        )
          add(BY_PASSING, number, other, moved(number, behind, other));
      }
    }
  }
  return ways;
}
