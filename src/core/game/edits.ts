import type { Move } from './move';
import { LIMITS } from './problem';
import { branchAt, type Branch, type BranchNode, type Step } from './steps';
import {
  ANNOTATION_FIELDS,
  type AnnotationField,
  type Annotations,
  nodeOf,
  ROOT,
  type GameNode,
  type GameTree,
  type Mark,
  type NodeId,
  type Cause,
} from './tree';

/** What a person does to a tree: the steps, and the node to look at afterwards. */
export interface Edit {
  readonly steps: readonly Step[];
  readonly node: NodeId;
}

/** Where new nodes get their ids from. */
export type NewId = () => NodeId;

const childWith = (tree: GameTree, at: NodeId, move: Move): GameNode | undefined =>
  nodeOf(tree, at)
    .children.map((id) => nodeOf(tree, id))
    .find((child) => child.move === move);

/** Nodes of a line, one below the other; at least one move. */
function branchOf(moves: readonly Move[], newId: NewId): Branch {
  const nodes: BranchNode[] = [];
  for (const move of moves) nodes.push({ id: newId(), parent: nodes.at(-1)?.id ?? null, move });
  return nodes as [BranchNode, ...BranchNode[]];
}

/** Goes along moves that the tree has already and adds the others as its last variation, or as the line's end. */
export function insertLine(tree: GameTree, at: NodeId, moves: readonly Move[], newId: NewId): Edit {
  let node = at;
  for (const [index, move] of moves.entries()) {
    const known = childWith(tree, node, move);
    if (!known) {
      const branch = branchOf(moves.slice(index), newId);
      const { children } = nodeOf(tree, node);
      return {
        steps: [{ type: 'insert', parent: node, index: children.length, branch }],
        node: branch.at(-1)!.id,
      };
    }
    node = known.id;
  }
  return { steps: [], node };
}

/**
 * Puts a tree of moves into the sheet below a node. Moves that are there already are gone along; what is written in the tree is added to
 * what the sheet says ({@link combined}).
 */
export function insertTree(tree: GameTree, at: NodeId, other: GameTree, newId: NewId): Edit {
  const steps: Step[] = [];
  let last = at;
  const pending = [{ mine: at, theirs: ROOT }];
  for (let next = pending.pop(); next; next = pending.pop()) {
    const { mine, theirs } = next;
    const own = nodeOf(tree, mine);
    const { id: _, parent: __, move: ___, children, ...written } = nodeOf(other, theirs);
    for (const field of ANNOTATION_FIELDS) {
      const value = combined(field, own, written);
      if (value !== undefined) steps.push({ type: 'annotate', node: mine, field, value });
    }
    let added = 0;
    for (const child of children) {
      const known = childWith(tree, mine, nodeOf(other, child).move);
      if (known) {
        pending.push({ mine: known.id, theirs: child });
        continue;
      }
      const branch = renamed(branchAt(other, child), newId);
      steps.push({ type: 'insert', parent: mine, index: own.children.length + added++, branch });
      if (last === at) last = branch[0].id;
    }
  }
  return { steps, node: last };
}

/**
 * What a field says once another's is added to it; undefined where nothing is new. Words stand behind one's own, marks and foreign
 * remarks beside them; where there can be one alone (a clock, an evaluation, a sign of quality), one's own stays.
 */
function combined(field: AnnotationField, own: Annotations, other: Annotations) {
  const theirs = other[field];
  if (theirs === undefined || own[field] === undefined) return theirs;
  switch (field) {
    case 'comment':
    case 'before': {
      const [mine, added] = [own[field]!, other[field]!];
      if (mine.includes(added)) return undefined;
      const both = added.includes(mine) ? added : `${mine}\n\n${added}`;
      return both.length > LIMITS.commentLength ? undefined : both;
    }
    case 'symbols':
      return added('symbols', own, other, (mine, nag) => {
        const group = groupOf(nag);
        return mine === nag || (group !== undefined && group === groupOf(mine));
      });
    case 'marks':
      return added('marks', own, other, isSamePlace);
    case 'extras':
      return added('extras', own, other, (mine, theirs) => mine === theirs);
    default:
      return undefined;
  }
}

type ListField = 'symbols' | 'marks' | 'extras';

/** A list with another's behind it that it has not got yet; undefined where nothing is new or it would be too long. */
function added<F extends ListField, T extends NonNullable<Annotations[F]>[number]>(
  field: F,
  own: Annotations,
  other: Annotations,
  isHad: (mine: T, theirs: T) => boolean,
): T[] | undefined {
  const mine = own[field] as unknown as readonly T[];
  const theirs = other[field] as unknown as readonly T[];
  const fresh = theirs.filter((one) => !mine.some((had) => isHad(had, one)));
  if (fresh.length === 0 || mine.length + fresh.length > LIMITS[field]) return undefined;
  return [...mine, ...fresh];
}

/** A branch with ids of its own. */
function renamed(branch: Branch, newId: NewId): Branch {
  const names = new Map(branch.map(({ id }) => [id, newId()]));
  return branch.map((node) => ({
    ...node,
    id: names.get(node.id)!,
    parent: node.parent === null ? null : names.get(node.parent)!,
  })) as unknown as Branch;
}

/** Puts a move in place of how the line goes on from the node; variations there stay. */
export function replaceNext(tree: GameTree, at: NodeId, move: Move, newId: NewId): Edit {
  const [next] = nodeOf(tree, at).children;
  const known = childWith(tree, at, move);
  const removal: Step[] = next === undefined ? [] : [{ type: 'remove', node: next }];
  if (known?.id === next && known) return { steps: [], node: known.id };
  if (known)
    return { steps: [...removal, { type: 'place', node: known.id, index: 0 }], node: known.id };
  const branch = branchOf([move], newId);
  return {
    steps: [...removal, { type: 'insert', parent: at, index: 0, branch }],
    node: branch[0].id,
  };
}

const siblingsOf = (tree: GameTree, node: GameNode): readonly NodeId[] =>
  node.parent === null ? [node.id] : nodeOf(tree, node.parent).children;

/** The node itself or the nearest one above it for which `fits` holds. */
function nearest(
  tree: GameTree,
  id: NodeId,
  fits: (index: number, siblings: readonly NodeId[]) => boolean,
) {
  for (let node = nodeOf(tree, id); node.parent !== null; node = nodeOf(tree, node.parent)) {
    const siblings = siblingsOf(tree, node);
    const index = siblings.indexOf(node.id);
    if (fits(index, siblings)) return { node, index };
  }
  return null;
}

/** The first node of the variation that holds the node; null on the main line. */
export const variationStart = (tree: GameTree, id: NodeId): GameNode | null =>
  nearest(tree, id, (index) => index > 0)?.node ?? null;

/** Moves the variation one place up; null on the main line. */
export function promote(tree: GameTree, id: NodeId): Edit | null {
  const found = nearest(tree, id, (index) => index > 0);
  return (
    found && { steps: [{ type: 'place', node: found.node.id, index: found.index - 1 }], node: id }
  );
}

/** Moves the line one place down where another could go before it; null where there is none. */
export function demote(tree: GameTree, id: NodeId): Edit | null {
  const found = nearest(tree, id, (index, siblings) => index < siblings.length - 1);
  return (
    found && { steps: [{ type: 'place', node: found.node.id, index: found.index + 1 }], node: id }
  );
}

/** Makes the line that leads to the node the main line; null where it is that already. */
export function makeMainLine(tree: GameTree, id: NodeId): Edit | null {
  const steps: Step[] = [];
  for (let node = nodeOf(tree, id); node.parent !== null; node = nodeOf(tree, node.parent))
    if (siblingsOf(tree, node)[0] !== node.id)
      steps.push({ type: 'place', node: node.id, index: 0 });
  return steps.length > 0 ? { steps, node: id } : null;
}

/** Takes the node and all below it away; null at the root. */
export function deleteFrom(tree: GameTree, id: NodeId): Edit | null {
  const { parent } = nodeOf(tree, id);
  return parent === null ? null : { steps: [{ type: 'remove', node: id }], node: parent };
}

/** Takes the whole variation that holds the node away; null on the main line. */
export function deleteVariation(tree: GameTree, id: NodeId): Edit | null {
  const start = variationStart(tree, id);
  return start && deleteFrom(tree, start.id);
}

/** Writes words at a node; blank ones take them away. */
export function writeWords(
  tree: GameTree,
  id: NodeId,
  field: 'before' | 'comment' | 'lesson',
  words: string,
): Edit {
  const value = words.trim() === '' ? undefined : words.trim();
  const steps: Step[] =
    nodeOf(tree, id)[field] === value ? [] : [{ type: 'annotate', node: id, field, value }];
  return { steps, node: id };
}

/** Says what an error came from, in place of what was said of it, or takes that back. */
export function toggleCause(tree: GameTree, id: NodeId, cause: Cause): Edit {
  const value = nodeOf(tree, id).cause === cause ? undefined : cause;
  return { steps: [{ type: 'annotate', node: id, field: 'cause', value }], node: id };
}

/** NAGs that exclude each other: what a move is worth, and who stands better. */
const EXCLUSIVE = [
  [1, 9],
  [10, 21],
] as const;

const groupOf = (nag: number) => EXCLUSIVE.find(([from, to]) => nag >= from && nag <= to);

/** Sets a symbol of the open NAG set, in place of one that says something else of the same, or takes it away. */
export function toggleSymbol(tree: GameTree, id: NodeId, nag: number): Edit {
  const { symbols = [] } = nodeOf(tree, id);
  const group = groupOf(nag);
  const others = symbols.filter(
    (symbol) => symbol !== nag && !(group && groupOf(symbol) === group),
  );
  const value = symbols.includes(nag) ? others : [...others, nag].sort((a, b) => a - b);
  return { steps: [annotateList(id, 'symbols', value)], node: id };
}

const isSamePlace = (mark: Mark, other: Mark): boolean =>
  mark.square === other.square && mark.to === other.to;

/** Draws a mark, gives it another colour, or takes it away where it is there in the same. */
export function toggleMark(tree: GameTree, id: NodeId, mark: Mark): Edit {
  const { marks = [] } = nodeOf(tree, id);
  const others = marks.filter((other) => !isSamePlace(other, mark));
  const known = marks.find((other) => isSamePlace(other, mark));
  const value = known?.colour === mark.colour ? others : [...others, mark];
  return { steps: [annotateList(id, 'marks', value)], node: id };
}

/** Takes all marks at a node away; null where there are none. */
export const clearMarks = (tree: GameTree, id: NodeId): Edit | null =>
  nodeOf(tree, id).marks ? { steps: [annotateList(id, 'marks', [])], node: id } : null;

const annotateList = <F extends 'symbols' | 'marks'>(
  node: NodeId,
  field: F,
  value: NonNullable<GameNode[F]>,
): Step => ({ type: 'annotate', node, field, value: value.length > 0 ? value : undefined });
