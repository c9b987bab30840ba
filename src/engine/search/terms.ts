/**
 * The readable evaluation is a weighted sum: each term counts something for side 0 less the same for side 1, and has
 * one weight for the middlegame and one for the ending. Tuning and explaining need no more than the counts. Both sums
 * travel in one number: that of the ending times 2^32, plus that of the middlegame.
 */
export const MOST_TERMS: i32 = 1024;
const WEIGHTS = new StaticArray<i64>(MOST_TERMS);
/** Goes up whenever a weight changes: what was summed before holds no longer. */
export let weighting: i32 = 0;

const counts = new StaticArray<i32>(MOST_TERMS);

export function forgetCounts(): void {
  for (let i = 0; i < MOST_TERMS; i++) counts[i] = 0;
}

/** What a term that a side has some times adds to its sum; with `keep`, its count is kept to be read. */
// @ts-ignore: decorator
@inline export function counted(term: i32, times: i32, owner: i32, keep: bool): i64 {
  if (keep) counts[term] += owner == 0 ? times : -times;
  return WEIGHTS[term] * <i64>times;
}

export function weightOf(term: i32): i64 {
  return WEIGHTS[term];
}

/** How much of the middlegame is left goes from this down to 0 (ending). */
export const FULL_PHASE: i32 = 24;

/** A sum, blended by how much of the middlegame is left. */
export function blended(sum: i64, phase: i32): i32 {
  const early = <i32>sum;
  const late = <i32>((sum - <i64>early) >> 32);
  return (early * phase + late * (FULL_PHASE - phase)) / FULL_PHASE;
}

export function setWeights(term: i32, forEarly: i32, forLate: i32): void {
  WEIGHTS[term] = (<i64>forLate << 32) + <i64>forEarly;
  weighting++;
}

/** Where the counts of the last kept evaluation lie: one 32-bit number for each term. */
export function countsAddress(): usize {
  return changetype<usize>(counts);
}
