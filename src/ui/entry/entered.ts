import { insertLine } from '@/core/game/edits';
import type { GameKind } from '@/core/game/ruleset';
import type { Step } from '@/core/game/steps';
import { emptyTree } from '@/core/game/tree';
import { documentOf, edited, newIdFor, undone, type Document } from '../document';
import { GameView } from '../game-view';
import type { Draft, Entered } from './draft';

/** A game as far as it has been entered; each move can be taken back. */
export function openDraft(
  kind: GameKind,
  { start, moves }: Pick<Draft, 'start' | 'moves'>,
): Document {
  const tree = emptyTree(kind, start);
  const empty = documentOf(new GameView({ tree, tags: [], result: '*', end: null }));
  return moves.reduce(enter, empty);
}

/** A move put behind the last one, with the time spent on it where that is known. */
export function enter(document: Document, { move, spent }: Entered): Document {
  const { tree } = document.view.record;
  const { steps, node } = insertLine(tree, document.node, [move], newIdFor(tree));
  const timed: Step[] =
    spent === null ? [] : [{ type: 'annotate', node, field: 'spent', value: spent }];
  return edited(document, { steps: [...steps, ...timed], node }).document;
}

/** What has been entered, in order. */
export const enteredIn = ({ view }: Document): Entered[] =>
  view.line.map(({ move, spent }) => ({ move, spent: spent ?? null }));

/** All moves are taken back, to be put forward again if that was a mistake. */
export function begunAnew(document: Document): Document {
  let before = document;
  for (let next = undone(before); next; next = undone(before)) before = next.document;
  return before;
}
