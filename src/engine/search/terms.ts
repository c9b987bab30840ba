/**
 * The readable evaluation is a weighted sum: each term counts something for side 0 less the same for side 1, and has
 * one weight for the middlegame and one for the ending. Tuning and explaining need no more than the counts.
 */
export const MOST_TERMS: i32 = 1024;
export const EARLY = new StaticArray<i32>(MOST_TERMS);
export const LATE = new StaticArray<i32>(MOST_TERMS);

const counts = new StaticArray<i32>(MOST_TERMS);
let counting: bool = false;

let early: i32 = 0;
let late: i32 = 0;

/** Starts an evaluation; with `keep`, the count of each term is kept to be read. */
export function startTerms(keep: bool): void {
  early = 0;
  late = 0;
  counting = keep;
  if (keep) for (let i = 0; i < MOST_TERMS; i++) counts[i] = 0;
}

// @ts-ignore: decorator
@inline export function count(term: i32, times: i32): void {
  early += EARLY[term] * times;
  late += LATE[term] * times;
  if (counting) counts[term] += times;
}

/** The sum, blended by how much of the game is left: `phase` from 0 (ending) to `full` (middlegame). */
export function blended(phase: i32, full: i32): i32 {
  return (early * phase + late * (full - phase)) / full;
}

export function setWeights(term: i32, forEarly: i32, forLate: i32): void {
  EARLY[term] = forEarly;
  LATE[term] = forLate;
}

/** Where the counts of the last kept evaluation lie: one 32-bit number for each term. */
export function countsAddress(): usize {
  return changetype<usize>(counts);
}
