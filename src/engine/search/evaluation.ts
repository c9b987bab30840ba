import { carriedSum, forgetCarried } from './carried';
import { evaluateByNetwork, hasNetwork } from './network';
import {
  adjusted,
  countPlacements,
  countRest,
  phaseNow,
  prepareTerms,
} from './position-evaluation';
import { currentKey, side } from './rules';
import { blended, forgetCounts, weighting } from './terms';

/** Values by the terms of positions seen lately: 48 bits of the key, and the value + 32768. */
const RECENT: i32 = 1 << 14;
const recent = new StaticArray<u64>(RECENT);
const VALUE_BITS: u64 = 0xffff;

/** The weighting that all is prepared for. */
let preparedFor: i32 = 0;

export function forgetEvaluations(): void {
  memory.fill(changetype<usize>(recent), 0, <usize>RECENT * 8);
  forgetCarried();
}

function prepare(): void {
  if (preparedFor == weighting) return;
  prepareTerms();
  forgetEvaluations();
  preparedFor = weighting;
}

// @ts-ignore: decorator
@inline function forMover(score: i32): i32 {
  return side == 0 ? score : -score;
}

/** Hundredths of a pawn from the view of the side to move: by the network where one is loaded, else by the terms. */
export function evaluate(): i32 {
  if (hasNetwork()) return forMover(adjusted(forMover(evaluateByNetwork())));
  const key = currentKey();
  const at = <i32>(key & (RECENT - 1));
  if (preparedFor == weighting && (recent[at] ^ key) <= VALUE_BITS) return <i32>((recent[at] ^ key) & VALUE_BITS) - 32768;
  const score = evaluateByTerms();
  recent[at] = key ^ <u64>(score + 32768);
  return score;
}

/** Hundredths of a pawn from the view of the side to move, by the terms. */
// @ts-ignore: decorator
@inline export function evaluateByTerms(): i32 {
  prepare();
  return scoreOf(carriedSum() + countRest(false));
}

/** The same, with the count of each term kept to be read. */
export function explain(): i32 {
  prepare();
  forgetCounts();
  return scoreOf(countPlacements(true) + countRest(true));
}

function scoreOf(sum: i64): i32 {
  return forMover(adjusted(blended(sum, phaseNow())));
}
