import type { Edit, NewId } from '@/core/game/edits';
import type { GameRecord } from '@/core/game/record';
import { applyInvertibly, freshId, type Step } from '@/core/game/steps';
import { ROOT, type GameTree, type NodeId } from '@/core/game/tree';
import { GameView } from './game-view';

/** An edit that can be taken back, and made again. */
export interface Change {
  steps: readonly Step[];
  inverse: readonly Step[];
  before: NodeId;
  after: NodeId;
}

/** A game as it is edited: what is looked at, what can be taken back, and what made again; the last is the next. */
export interface Document {
  view: GameView;
  node: NodeId;
  done: readonly Change[];
  undone: readonly Change[];
}

/** A document after something was done to it, and the steps that led there. */
export interface Edited {
  document: Document;
  steps: readonly Step[];
}

export const documentOf = (view: GameView, node: NodeId = ROOT): Document => ({
  view,
  node: view.has(node) ? node : ROOT,
  done: [],
  undone: [],
});

/** Draws ids for new nodes of a tree. */
export const newIdFor =
  (tree: GameTree): NewId =>
  () =>
    freshId(tree, Math.random);

/** A view of the changed game, at the wanted node or the nearest one above it that is still there. */
export function seen(
  before: GameView,
  record: GameRecord,
  wanted: NodeId,
): Pick<Document, 'view' | 'node'> {
  const view = new GameView(record, before);
  let node = wanted;
  while (!view.has(node)) node = before.has(node) ? (before.node(node).parent ?? ROOT) : ROOT;
  return { view, node };
}

export function edited(document: Document, { steps, node: after }: Edit): Edited {
  const { view, node: before, done } = document;
  const { record, inverse } = applyInvertibly(view.record, steps);
  const change = { steps, inverse, before, after };
  return {
    document: { ...seen(view, record, after), done: [...done, change], undone: [] },
    steps,
  };
}

/** Takes back what was done last; null where there is nothing. */
export function undone({ view, done, undone: others }: Document): Edited | null {
  const change = done.at(-1);
  if (!change) return null;
  const { record, inverse } = applyInvertibly(view.record, change.inverse);
  return {
    document: {
      ...seen(view, record, change.before),
      done: done.slice(0, -1),
      undone: [...others, { ...change, steps: inverse }],
    },
    steps: change.inverse,
  };
}

/** Makes again what was taken back last; null where there is nothing. */
export function redone({ view, done, undone: others }: Document): Edited | null {
  const change = others.at(-1);
  if (!change) return null;
  const { record, inverse } = applyInvertibly(view.record, change.steps);
  return {
    document: {
      ...seen(view, record, change.after),
      done: [...done, { ...change, inverse }],
      undone: others.slice(0, -1),
    },
    steps: change.steps,
  };
}
