import { gap } from './host';
import { initOrdering } from './ordering';
import { initEvaluation } from './position-evaluation';
import { initRules } from './rules';
import { initSearch } from './search';

export {
  clearPosition,
  currentKey,
  generateChecks,
  inCheck,
  makeMove,
  outputBucket,
  putHand,
  putPiece,
  setState,
} from './rules';
export { listedMove } from './moves';
export {
  addOnly,
  addRepeated,
  clearMemory,
  forgetOnly,
  forgetRepeated,
  lengthOfLine,
  linesFound,
  moveOfLine,
  nodesSearched,
  perft,
  scoreOfLine,
  setHeadStart,
  think,
} from './search';
export { evaluateByTerms, explain } from './evaluation';
export { phaseNow } from './position-evaluation';
export { evaluateByNetwork, networkBytes, useNetwork } from './network';
export { SHALLOW_BYTES, shallowTable, useTable } from './table';
export { countsAddress, MOST_TERMS, setWeights } from './terms';

/** Keeps the gap before the arrays of this thread. */
export function memoryGap(): usize {
  return gap;
}

/** Room in memory that nothing else uses. */
export function reserve(bytes: u32): usize {
  return (heap.alloc(bytes + 64) + 63) & ~63;
}

initRules();
initOrdering();
initEvaluation();
initSearch();
