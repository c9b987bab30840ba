import { initRules } from '../search/rules';

export { clearPosition, makeMove, putHand, putPiece, setState, undoMove } from '../search/rules';
export { listedMove } from '../search/moves';
export { forgetMates, growOlder, useMateTable } from './known';
export {
  isMated,
  isSafeForEver,
  knownMate,
  listMoves,
  positionsExpanded,
  prove,
  setMateRules,
} from './prover';

/** Room in memory that nothing else uses. */
export function reserve(bytes: u32): usize {
  return (heap.alloc(bytes + 64) + 63) & ~63;
}

initRules();
