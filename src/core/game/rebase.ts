import type { GameRecord } from './record';
import { applyStep, mapStep, type Step } from './steps';

/**
 * The steps of `mine`, made one after the other for `base`, as they apply after `theirs` have been applied to `base`.
 * Where both set the same thing, `mine` have the last word; what hangs below a branch that was taken away is dropped.
 */
export function rebaseSteps(
  base: GameRecord,
  mine: readonly Step[],
  theirs: readonly Step[],
): Step[] {
  const rebased: Step[] = [];
  let record = base;
  let others: readonly Step[] = theirs;
  for (const step of mine) {
    const passed = passSteps(record, step, others);
    if (passed.step) rebased.push(passed.step);
    others = passed.others;
    record = applyStep(record, step);
  }
  return rebased;
}

/** Moves one step past others made for the same game: the step after them, and them after the step. */
function passSteps(
  before: GameRecord,
  step: Step,
  others: readonly Step[],
): { step: Step | null; others: Step[] } {
  let record = before;
  let mine: Step | null = step;
  const passed: Step[] = [];
  for (const other of others) {
    const theirs: Step | null = mine ? mapStep(record, other, mine) : other;
    const next: Step | null = mine ? mapStep(record, mine, other) : null;
    if (theirs) passed.push(theirs);
    record = applyStep(record, other);
    mine = next;
  }
  return { step: mine, others: passed };
}
