import { insertTree, type NewId } from './edits';
import { tagOf, type GameRecord } from './record';
import type { Step } from './steps';
import { ROOT } from './tree';

/**
 * The steps that add to a game what another record of the same game says beyond it: variations, words, clocks, tags and a result that was
 * open. Nothing that is there is changed or lost, and what has been added once is not added again.
 */
export function mergeSteps(known: GameRecord, other: GameRecord, newId: NewId): Step[] {
  const { steps } = insertTree(known.tree, ROOT, other.tree, newId);
  const tags = other.tags
    .filter(({ name }) => tagOf(known.tags, name) === undefined)
    .map(({ name, value }): Step => ({ type: 'tag', name, value }));
  const isOpen = known.result === '*' && known.end === null;
  const finish: Step[] =
    isOpen && (other.result !== '*' || other.end !== null)
      ? [{ type: 'finish', result: other.result, end: other.end }]
      : [];
  return [...steps, ...tags, ...finish];
}
