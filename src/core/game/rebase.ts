import type { GameRecord } from './record';
import { applyStep, mapStep, StepError, type Step } from './steps';
import { pathTo, type GameTree, type NodeId } from './tree';

/**
 * The steps of `mine`, made one after the other for `base`, as they apply after `theirs` have been applied to `base`.
 * Where both set the same thing, `mine` have the last word; what hangs below a branch that was taken away is dropped.
 */
export const rebaseSteps = (
  base: GameRecord,
  mine: readonly Step[],
  theirs: readonly Step[],
): Step[] => rebase(base, mine, theirs).mine;

/** Both as they apply after the other. */
export function rebase(
  base: GameRecord,
  mine: readonly Step[],
  theirs: readonly Step[],
): { mine: Step[]; theirs: Step[] } {
  const rebased: Step[] = [];
  let record = base;
  let others: readonly Step[] = theirs;
  for (const step of mine) {
    const passed = passSteps(record, step, others);
    if (passed.step) rebased.push(passed.step);
    others = passed.others;
    record = applyStep(record, step);
  }
  return { mine: rebased, theirs: [...others] };
}

/** Moves one step past others made for the same game: the step after them, and them after the step. */
function passSteps(
  before: GameRecord,
  step: Step,
  others: readonly Step[],
): { step: Step | null; others: Step[]; clashes: boolean } {
  let record = before;
  let mine: Step | null = step;
  let clashes = false;
  const passed: Step[] = [];
  for (const other of others) {
    clashes ||= mine !== null && touchSame(record.tree, mine, other);
    const theirs: Step | null = mine ? mapStep(record, other, mine) : other;
    const next: Step | null = mine ? mapStep(record, mine, other) : null;
    if (theirs) passed.push(theirs);
    record = applyStep(record, other);
    mine = next;
  }
  return { step: mine, others: passed, clashes };
}

/** Whether both touched the same, so that one would overwrite or lose what the other wrote. */
export function clash(base: GameRecord, mine: readonly Step[], theirs: readonly Step[]): boolean {
  let record = base;
  let others: readonly Step[] = theirs;
  for (const step of mine) {
    const passed = passSteps(record, step, others);
    if (passed.clashes) return true;
    others = passed.others;
    record = applyStep(record, step);
  }
  return false;
}

/** Whether two steps made for the same game touch the same. */
function touchSame(tree: GameTree, one: Step, other: Step): boolean {
  if (one.type === 'tag') return other.type === 'tag' && other.name === one.name;
  if (one.type === 'finish') return other.type === 'finish';
  if (one.type === 'remove' || other.type === 'remove')
    return writesBelow(tree, one, other) || writesBelow(tree, other, one);
  if (one.type === 'annotate')
    return other.type === 'annotate' && other.node === one.node && other.field === one.field;
  if (one.type === 'place')
    return other.type === 'place' && parentOf(tree, one.node) === parentOf(tree, other.node);
  return (
    other.type === 'insert' &&
    other.parent === one.parent &&
    other.branch[0].move === one.branch[0].move
  );
}

const parentOf = (tree: GameTree, node: NodeId): NodeId | null =>
  tree.nodes.get(node)?.parent ?? null;

/** Whether one step takes away what the other writes. */
function writesBelow(tree: GameTree, removal: Step, other: Step): boolean {
  if (removal.type !== 'remove') return false;
  const at = other.type === 'insert' ? other.parent : other.type === 'annotate' ? other.node : null;
  if (at === null || !tree.nodes.has(at)) return false;
  return pathTo(tree, at).some(({ id }) => id === removal.node);
}

/**
 * Changes, each made for the game after the one before, as they apply after `theirs`: what can be taken back after others have
 * changed the game. They end before the first that touches what `theirs` touched.
 * @param record the game for which the first change and `theirs` were made
 * @param after the game after `theirs`
 */
export function rebaseChanges(
  record: GameRecord,
  changes: readonly (readonly Step[])[],
  theirs: readonly Step[],
  after: GameRecord,
): Step[][] {
  const kept: Step[][] = [];
  let before = record;
  let others: readonly Step[] = theirs;
  let now = after;
  for (const change of changes) {
    if (clash(before, change, others)) break;
    const rebased = rebase(before, change, others);
    try {
      now = rebased.mine.reduce(applyStep, now);
    } catch (error) {
      if (error instanceof StepError) break;
      throw error;
    }
    kept.push(rebased.mine);
    before = change.reduce(applyStep, before);
    others = rebased.theirs;
  }
  return kept;
}
