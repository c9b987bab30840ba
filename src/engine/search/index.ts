import { evaluate } from './evaluation';
import { initEvaluation } from './position-evaluation';
import { initRules } from './rules';
import { initSearch } from './search';

export { clearPosition, inCheck, putHand, putPiece, setState } from './rules';
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
  think,
} from './search';
export { evaluateByTerms, phaseNow } from './position-evaluation';
export { networkBytes, useNetwork } from './network';
export { useTable } from './table';
export { countOf, setWeights } from './terms';
export { evaluate };

/** Room in memory that nothing else uses. */
export function reserve(bytes: u32): usize {
  return (heap.alloc(bytes + 64) + 63) & ~63;
}

initRules();
initEvaluation();
initSearch();
