/** How far ahead a plain search must look to see what there is to see in a position. */
export interface Seen {
  /** The fewest plies at which it is seen, and still is one ply further; null: not within {@link deepest}. */
  plies: number | null;
  /** Plies that were looked ahead. */
  deepest: number;
}

/** A good move that takes so many plies to see is hard to find. */
const HARD = 3;
/** A good move that is not seen within so many is rejected by those who look fairly deep. */
const FAIRLY_DEEP = 5;

export const isHard = ({ plies, deepest }: Seen): boolean => (plies ?? deepest + 1) >= HARD;

export const isRejected = ({ plies, deepest }: Seen): boolean =>
  plies === null && deepest >= FAIRLY_DEEP;

/** Moves of one side that one has to look ahead: its own first move, and every second ply after it. */
export const movesAhead = (plies: number): number => Math.ceil(plies / 2);
