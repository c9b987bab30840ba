import { carriedDistance, carriedSum, carryDistance, forgetCarried } from './carried';
import { evaluateByNetwork, hasNetwork } from './network';
import {
  adjusted,
  countPlacements,
  countRest,
  phaseNow,
  PLAIN_PHASE,
  prepareTerms,
  UNCERTAIN,
} from './position-evaluation';
import { currentKey, side } from './rules';
import { blended, startTerms, weighting } from './terms';

/** Values by the terms of positions seen lately: 48 bits of the key, and the value + 32768. */
const RECENT: i32 = 1 << 14;
const recent = new StaticArray<u64>(RECENT);
const VALUE_BITS: u64 = 0xffff;

/** The weighting that all is prepared for. */
let preparedFor: i32 = 0;

/** Whether the value last asked for within a window is a bound outside it. */
export let isBound: bool = false;

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
  return evaluateWithin(-32768, 32767);
}

/**
 * The same where it lies between `low` and `high`. By the terms, where it is so far outside that the guess carried along
 * the line decides it, only a bound is given: at most `low` or at least `high`, and {@link isBound}.
 */
export function evaluateWithin(low: i32, high: i32): i32 {
  isBound = false;
  if (hasNetwork()) return forMover(adjusted(forMover(evaluateByNetwork())));
  prepare();
  const key = currentKey();
  const at = <i32>(key & (RECENT - 1));
  if ((recent[at] ^ key) <= VALUE_BITS) return <i32>((recent[at] ^ key) & VALUE_BITS) - 32768;
  startTerms(false);
  const phase = phaseNow();
  const carried = carriedSum();
  const known = blended(carried, phase);
  if (phase >= PLAIN_PHASE) {
    const guess = forMover(known + carriedDistance());
    isBound = true;
    if (guess - UNCERTAIN >= high) return guess - UNCERTAIN;
    if (guess + UNCERTAIN <= low) return guess + UNCERTAIN;
    isBound = false;
  }
  const score = adjusted(blended(carried + countRest(false), phase));
  carryDistance(score - known);
  recent[at] = key ^ <u64>(forMover(score) + 32768);
  return forMover(score);
}

/** Hundredths of a pawn from the view of the side to move, by the terms; with `keep`, the count of each can be read after it. */
export function evaluateByTerms(keep: bool): i32 {
  prepare();
  startTerms(keep);
  const placements = keep ? countPlacements() : carriedSum();
  return forMover(adjusted(blended(placements + countRest(keep), phaseNow())));
}
