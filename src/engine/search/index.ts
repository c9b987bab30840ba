import { initRules } from './rules';
import { initSearch } from './search';

export { clearPosition, inCheck, putHand, putPiece, setState, evaluate } from './rules';
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
export { allocateTable } from './table';

initRules();
initSearch();
