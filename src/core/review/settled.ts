import { THRESHOLDS } from './verdict';

/** What a search said at one depth. */
export interface DepthPoint {
  depth: number;
  /** Chance of the side to move, 0–100. */
  chance: number;
  /** The move that it held best, in UCI or USI. */
  best: string;
  /** A forced mate, for whomever. */
  isMate?: boolean;
}

/** How many of the latest depths are looked at. */
const LATEST = 4;
/** Before this depth nothing is settled. */
const EARLIEST = 8;

/** Whether a search still changes its mind: by an inaccuracy's worth among its latest depths, or about the best move. */
export function isUnsettled(curve: readonly DepthPoint[]): boolean {
  const last = curve.at(-1);
  // what is forced does not change any more, however early it was seen
  if (last?.isMate) return false;
  if (!last || last.depth < EARLIEST) return true;
  const latest = curve.slice(-LATEST);
  const chances = latest.map(({ chance }) => chance);
  if (Math.max(...chances) - Math.min(...chances) >= THRESHOLDS.inaccuracy) return true;
  return latest.slice(-2).some(({ best }) => best !== last.best);
}

/** How many of some moves keep the result: they lose less than a mistake to the best. One alone is the only move. */
export function keepers(chances: readonly number[]): number {
  const best = Math.max(...chances);
  return chances.filter((chance) => best - chance < THRESHOLDS.mistake).length;
}
