import type { Position } from './ruleset';
import type { Move } from './move';
import { withTag, type GameRecord, type Tag } from './record';
import type { EndReason, Result } from './result';
import { NULL_MOVE } from './move';
import { rulesetOf } from '../rulesets';
import {
  nodeOf,
  pathTo,
  positionsAlong,
  ROOT,
  type AnnotationField,
  type Annotations,
  type GameNode,
  type GameTree,
  type NodeId,
} from './tree';

/** A node to be inserted. */
export interface BranchNode extends Annotations {
  readonly id: NodeId;
  /** The node of the branch that it hangs at; null for the branch's first node. */
  readonly parent: NodeId | null;
  readonly move: Move;
}

/** Nodes to be inserted together: parents before their children, siblings in their order, the one that all hang below first. */
export type Branch = readonly [BranchNode, ...BranchNode[]];

/**
 * The few ways in which a game changes. Steps are plain data: they can be stored, sent, taken back
 * ({@link invertStep}) and carried over to a game that has changed meanwhile ({@link mapStep}).
 */
export type Step =
  | { type: 'insert'; parent: NodeId; index: number; branch: Branch }
  | { type: 'remove'; node: NodeId }
  | { type: 'place'; node: NodeId; index: number }
  | { type: 'annotate'; node: NodeId; field: AnnotationField; value: Annotations[AnnotationField] }
  | { type: 'tag'; name: string; value: string | null; index?: number }
  | { type: 'finish'; result: Result; end: EndReason | null };

/** A step that does not fit the game it was applied to. */
export class StepError extends Error {
  constructor(
    readonly code: 'noNode' | 'root' | 'index' | 'duplicateId' | 'illegalMove',
    detail: string,
  ) {
    super(`${code}: ${detail}`);
    this.name = 'StepError';
  }
}

/**
 * The game after the step; the given one is left as it was.
 * @throws StepError when the step does not fit or would make an illegal move part of the tree
 */
export function applyStep(record: GameRecord, step: Step): GameRecord {
  switch (step.type) {
    case 'tag':
      return { ...record, tags: applyTag(record.tags, step) };
    case 'finish':
      return { ...record, result: step.result, end: step.end };
    default:
      return { ...record, tree: applyToTree(record.tree, step) };
  }
}

type TreeStep = Exclude<Step, { type: 'tag' | 'finish' }>;

function applyToTree(tree: GameTree, step: TreeStep): GameTree {
  switch (step.type) {
    case 'insert':
      return insert(tree, step.parent, step.index, step.branch);
    case 'remove':
      return remove(tree, requireChild(tree, step.node));
    case 'place':
      return place(tree, requireChild(tree, step.node), step.index);
    case 'annotate': {
      const node = requireNode(tree, step.node);
      const { [step.field]: _, ...rest } = node;
      const changed = step.value === undefined ? rest : { ...rest, [step.field]: step.value };
      return withNodes(tree, [changed]);
    }
  }
}

function requireNode(tree: GameTree, id: NodeId): GameNode {
  const node = tree.nodes.get(id);
  if (!node) throw new StepError('noNode', String(id));
  return node;
}

function requireChild(tree: GameTree, id: NodeId): GameNode & { parent: NodeId } {
  const node = requireNode(tree, id);
  if (node.parent === null) throw new StepError('root', 'the root stays');
  return node as GameNode & { parent: NodeId };
}

function requireIndex(index: number, most: number): void {
  if (!Number.isInteger(index) || index < 0 || index > most)
    throw new StepError('index', `${index} of ${most}`);
}

function withNodes(tree: GameTree, changed: readonly GameNode[]): GameTree {
  const nodes = new Map(tree.nodes);
  for (const node of changed) nodes.set(node.id, node);
  return { ...tree, nodes };
}

function insert(tree: GameTree, parentId: NodeId, index: number, branch: Branch): GameTree {
  const parent = requireNode(tree, parentId);
  requireIndex(index, parent.children.length);
  const ruleset = rulesetOf(tree.kind);
  const start = positionsAlong(ruleset, tree.start, pathTo(tree, parentId)).at(-1)!;
  const added = new Map<NodeId, GameNode & { children: NodeId[] }>();
  const positions = new Map<NodeId, Position>();
  /** The position after a node of the branch; those of leaves are never asked for. */
  const after = ({ id, move }: GameNode): Position => {
    if (added.get(id)!.children.length === 0)
      positions.set(id, ruleset.play(positions.get(id)!, move));
    return positions.get(id)!;
  };
  for (const [place, node] of branch.entries()) {
    const above = node.parent === null ? null : added.get(node.parent);
    if ((place === 0) !== (node.parent === null) || above === undefined)
      throw new StepError('noNode', `${node.parent} in the branch`);
    if (tree.nodes.has(node.id) || added.has(node.id))
      throw new StepError('duplicateId', String(node.id));
    const before = above ? after(above) : start;
    if (node.move === NULL_MOVE ? ruleset.inCheck(before) : !ruleset.isLegal(before, node.move))
      throw new StepError('illegalMove', String(node.move));
    added.set(node.id, { ...node, parent: above?.id ?? parentId, children: [] });
    above?.children.push(node.id);
    positions.set(node.id, before);
  }
  const children = parent.children.toSpliced(index, 0, branch[0].id);
  return withNodes(tree, [...added.values(), { ...parent, children }]);
}
function remove(tree: GameTree, node: GameNode & { parent: NodeId }): GameTree {
  const parent = nodeOf(tree, node.parent);
  const children = parent.children.filter((id) => id !== node.id);
  const nodes = new Map(tree.nodes);
  const pending = [node.id];
  while (pending.length > 0) {
    const id = pending.pop()!;
    pending.push(...nodes.get(id)!.children);
    nodes.delete(id);
  }
  nodes.set(parent.id, { ...parent, children });
  return { ...tree, nodes };
}

function place(tree: GameTree, node: GameNode & { parent: NodeId }, index: number): GameTree {
  const parent = nodeOf(tree, node.parent);
  requireIndex(index, parent.children.length - 1);
  const others = parent.children.filter((id) => id !== node.id);
  return withNodes(tree, [{ ...parent, children: others.toSpliced(index, 0, node.id) }]);
}

function applyTag(tags: readonly Tag[], step: Extract<Step, { type: 'tag' }>): Tag[] {
  const exists = tags.some((tag) => tag.name === step.name);
  if (step.value === null || exists || step.index === undefined)
    return withTag(tags, step.name, step.value);
  return tags.toSpliced(step.index, 0, { name: step.name, value: step.value });
}

/** The branch that hangs at a node, as an insert step takes it. */
export function branchAt(tree: GameTree, id: NodeId): Branch {
  const order = [id];
  for (let i = 0; i < order.length; i++)
    for (const child of nodeOf(tree, order[i]!).children) order.push(child);
  const nodes = order.map((next): BranchNode => {
    const { children: _, ...content } = nodeOf(tree, next);
    return next === id ? { ...content, parent: null } : content;
  });
  return nodes as [BranchNode, ...BranchNode[]];
}

/** The step that undoes `step`; `before`: the game to which `step` is or was applied. */
export function invertStep(before: GameRecord, step: Step): Step {
  const { tree } = before;
  switch (step.type) {
    case 'insert':
      return { type: 'remove', node: step.branch[0].id };
    case 'remove': {
      const node = requireChild(tree, step.node);
      const index = nodeOf(tree, node.parent).children.indexOf(node.id);
      return { type: 'insert', parent: node.parent, index, branch: branchAt(tree, node.id) };
    }
    case 'place': {
      const node = requireChild(tree, step.node);
      const index = nodeOf(tree, node.parent).children.indexOf(node.id);
      return { type: 'place', node: node.id, index };
    }
    case 'annotate': {
      const { node, field } = step;
      return { type: 'annotate', node, field, value: requireNode(tree, node)[field] };
    }
    case 'tag': {
      const index = before.tags.findIndex((tag) => tag.name === step.name);
      const value = before.tags[index]?.value ?? null;
      return { type: 'tag', name: step.name, value, ...(index >= 0 ? { index } : {}) };
    }
    case 'finish':
      return { type: 'finish', result: before.result, end: before.end };
  }
}

/**
 * `step`, made for `before`, as it applies after `over` has been applied to `before`; null when nothing is left
 * to do. Where both set the same thing, `step` comes later and so has the last word.
 */
export function mapStep(before: GameRecord, step: Step, over: Step): Step | null {
  if (step.type === 'tag' || step.type === 'finish') return step;
  const { tree } = before;
  if (over.type === 'remove') {
    const gone = (id: NodeId): boolean =>
      id === over.node || pathTo(tree, id).some((node) => node.id === over.node);
    if (step.type === 'insert' ? gone(step.parent) : gone(step.node)) return null;
  }
  if (step.type !== 'insert' && step.type !== 'place') return step;
  const parent = step.type === 'insert' ? step.parent : nodeOf(tree, step.node).parent!;
  const shift = shiftOf(tree, parent, step.index, over, step.type === 'place' ? step.node : null);
  return shift === 0 ? step : { ...step, index: step.index + shift };
}

/** By how much `over` moves the gap at `index` among the children of `parent`, not counting `self`. */
function shiftOf(
  tree: GameTree,
  parent: NodeId,
  index: number,
  over: Step,
  self: NodeId | null,
): number {
  if (over.type === 'insert') return over.parent === parent && over.index < index ? 1 : 0;
  if (over.type !== 'remove') return 0;
  const removed = tree.nodes.get(over.node);
  if (removed?.parent !== parent) return 0;
  const siblings = nodeOf(tree, parent).children.filter((id) => id !== self);
  return siblings.indexOf(over.node) < index ? -1 : 0;
}

/** Applies steps one after the other. */
export const applySteps = (record: GameRecord, steps: readonly Step[]): GameRecord =>
  steps.reduce(applyStep, record);

/** The game after all of `steps`, with the steps that undo them in the order in which they are to be applied. */
export function applyInvertibly(
  before: GameRecord,
  steps: readonly Step[],
): { record: GameRecord; inverse: Step[] } {
  const inverse: Step[] = [];
  let record = before;
  for (const step of steps) {
    inverse.unshift(invertStep(record, step));
    record = applyStep(record, step);
  }
  return { record, inverse };
}

/** An id that the tree does not hold, for the caller's `draw` of a random number in [0, 1). */
export function freshId(tree: GameTree, draw: () => number): NodeId {
  for (;;) {
    const id = 2 ** 20 + Math.floor(draw() * (2 ** 52 - 2 ** 20));
    if (id !== ROOT && !tree.nodes.has(id)) return id;
  }
}
