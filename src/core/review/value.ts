import type { Ruleset } from '../game/ruleset';
import { cpScore, mateScore, type Score } from '../game/score';
import { EXACT_DEPTH, type PositionEvaluation } from './evaluation';

/** Where a value comes from: the rules, which end the game, tables of endings (or a mate that is proved), or a search to a depth. */
export type Origin = { by: 'rules' } | { by: 'tables' } | { by: 'search'; depth: number };

export interface Value {
  /** From the view of side 0. */
  score: Score;
  origin: Origin;
}

/**
 * The value of a position: what is exact is asked first and stands above what a search found; null where neither tells.
 * @param history all earlier positions of the game
 */
export function valueOf<P>(
  ruleset: Ruleset<P>,
  position: P,
  history: readonly P[],
  evaluation: PositionEvaluation | null | undefined,
): Value | null {
  const final = finalScore(ruleset, position, history);
  if (final !== null) return { score: final, origin: { by: 'rules' } };
  const [best] = evaluation?.lines ?? [];
  if (!best) return null;
  const { depth } = evaluation!;
  const origin: Origin = depth === EXACT_DEPTH ? { by: 'tables' } : { by: 'search', depth };
  return { score: best.score, origin };
}

/** The exact score of a position in which the game is over by the rules, or null. */
function finalScore<P>(ruleset: Ruleset<P>, position: P, history: readonly P[]): Score | null {
  const status = ruleset.status(position, history);
  if (status.state === 'ongoing') return null;
  if (status.result === '1/2-1/2') return cpScore(0);
  return mateScore(0, status.result === '1-0' ? 0 : 1);
}
