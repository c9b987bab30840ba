import { added, alsoAdded, alsoDropped, dropped } from './changes';
import { GAME_PLIES } from './moves';
import { countPlacements, isCountedByAll, worth } from './position-evaluation';
import { keys, noteChanges, top } from './rules';

/**
 * What the pieces count by themselves and by where they stand is carried along the line, since a move changes little of
 * it. So is how far the whole evaluation was from that when it was last asked for: a good guess of how far it is now.
 */
const PLIES: i32 = GAME_PLIES + 1;
const sums = new StaticArray<i64>(PLIES);
/** Hundredths of a pawn for side 0. */
const distances = new StaticArray<i32>(PLIES);
/** By depth of the line: the key of the position whose sum is known there. */
const sumsFor = new StaticArray<u64>(PLIES);

export function forgetCarried(): void {
  for (let ply = 0; ply < PLIES; ply++) sumsFor[ply] = 0;
}

/** What all placements count for side 0, from what is known of the line. */
export function carriedSum(): i64 {
  let known = top;
  while (known >= 0 && sumsFor[known] != keys[known]) known--;
  if (known == top) return sums[top];
  let sum: i64 = known < 0 ? 0 : sums[known];
  let isNew = known < 0;
  for (let ply = known; ply < top && !isNew; ply++) {
    noteChanges(ply);
    isNew = isCountedByAll(added);
    sum += worth(added) + worth(alsoAdded) - worth(dropped) - worth(alsoDropped);
  }
  sums[top] = isNew ? countPlacements() : sum;
  distances[top] = known < 0 ? 0 : distances[known];
  sumsFor[top] = keys[top];
  return sums[top];
}

/** About how far the evaluation is from {@link carriedSum}, which is to be asked for first. */
export function carriedDistance(): i32 {
  return distances[top];
}

export function carryDistance(distance: i32): void {
  distances[top] = distance;
}
