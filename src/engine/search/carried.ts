import { added, alsoAdded, alsoDropped, dropped } from './changes';
import { GAME_PLIES } from './moves';
import { countPlacements, isCountedByAll, worth } from './position-evaluation';
import { keys, noteChanges, top } from './rules';

/**
 * What the pieces count by themselves and by where they stand is carried along the line: a move changes little of it.
 */
const PLIES: i32 = GAME_PLIES + 1;
const sums = new StaticArray<i64>(PLIES);
/** By depth of the line: the key of the position whose sum is known there. */
const sumsFor = new StaticArray<u64>(PLIES);

export function forgetCarried(): void {
  for (let ply = 0; ply < PLIES; ply++) sumsFor[ply] = 0;
}

/** What all placements count for side 0, from what is known of the line. */
// @ts-ignore: decorator
@inline export function carriedSum(): i64 {
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
  sums[top] = isNew ? countPlacements(false) : sum;
  sumsFor[top] = keys[top];
  return sums[top];
}
