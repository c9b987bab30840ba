import { evaluateByNetwork, hasNetwork } from './network';
import { adjusted, evaluateByTerms } from './position-evaluation';
import { side } from './rules';

/** Hundredths of a pawn from the view of the side to move: by the network where one is loaded, else by the terms. */
export function evaluate(): i32 {
  if (!hasNetwork()) return evaluateByTerms(false);
  const score = evaluateByNetwork();
  return side == 0 ? adjusted(score) : -adjusted(-score);
}
