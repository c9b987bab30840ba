import { NULL_MOVE, type Move, type Square } from './move';
import { LIMITS } from './problem';
import type { GameKind, Ruleset } from './ruleset';
import type { StatedScore } from './score';

/** Stable name of a node: 0 is the root; importers number the others, editors draw them at random. */
export type NodeId = number;
export const ROOT: NodeId = 0;

export type MarkColour = 'green' | 'red' | 'yellow' | 'blue';
/** A marked square, or with `to` an arrow. */
export interface Mark {
  colour: MarkColour;
  square: Square;
  to?: Square;
}

/** What an error came from, as the player who made it says. */
export const CAUSES = ['hasty', 'unseen', 'misjudged', 'feared', 'forgotten', 'other'] as const;
export type Cause = (typeof CAUSES)[number];

/** What may be written at a node. A missing field says nothing. */
export interface Annotations {
  /** Words before the move; formats hold them only where a variation starts. */
  readonly before?: string;
  /** Words after the move; at the root: before the game. */
  readonly comment?: string;
  /** Numeric annotation glyphs of the open NAG set, in order. */
  readonly symbols?: readonly number[];
  readonly marks?: readonly Mark[];
  /** Milliseconds left on the mover's clock after the move. */
  readonly clock?: number;
  /** Milliseconds spent on the move. */
  readonly spent?: number;
  readonly evaluation?: StatedScore;
  /** What the player wants to remember of the position: one line in own words. */
  readonly lesson?: string;
  readonly cause?: Cause;
  /** Machine-readable remarks of others that mean nothing to us, word for word. */
  readonly extras?: readonly string[];
}
export const ANNOTATION_FIELDS = [
  'before',
  'comment',
  'symbols',
  'marks',
  'clock',
  'spent',
  'evaluation',
  'lesson',
  'cause',
  'extras',
] as const satisfies readonly (keyof Annotations)[];
export type AnnotationField = (typeof ANNOTATION_FIELDS)[number];

export interface GameNode extends Annotations {
  readonly id: NodeId;
  /** Null at the root only. */
  readonly parent: NodeId | null;
  /** The move that leads here; {@link NULL_MOVE} at the root. */
  readonly move: Move;
  /** The first child goes on with the line; the others are variations. */
  readonly children: readonly NodeId[];
}

/** A game's moves with variations and annotations. Immutable: see steps.ts for changes. */
export interface GameTree {
  readonly kind: GameKind;
  /** FEN or SFEN of the root. */
  readonly start: string;
  readonly nodes: ReadonlyMap<NodeId, GameNode>;
}

export const emptyTree = (kind: GameKind, start: string): GameTree => ({
  kind,
  start,
  nodes: new Map([[ROOT, { id: ROOT, parent: null, move: NULL_MOVE, children: [] }]]),
});

/** A tree of one line; its nodes are numbered from 1. */
export function lineTree(kind: GameKind, start: string, moves: readonly Move[]): GameTree {
  const tree = new TreeBuilder(kind, start);
  let last = ROOT;
  for (const move of moves) last = tree.add(last, move);
  return tree.build();
}

/** @throws Error when the tree has no such node */
export function nodeOf(tree: GameTree, id: NodeId): GameNode {
  const node = tree.nodes.get(id);
  if (!node) throw new Error(`no node ${id}`);
  return node;
}

/** From the root's child down to the node; empty for the root. */
export function pathTo(tree: GameTree, id: NodeId): GameNode[] {
  const path: GameNode[] = [];
  for (let node = nodeOf(tree, id); node.parent !== null; node = nodeOf(tree, node.parent))
    path.push(node);
  return path.reverse();
}

/** The node's first child, its first child, and so on to the end. */
export function lineFrom(tree: GameTree, id: NodeId): GameNode[] {
  const line: GameNode[] = [];
  let [next] = nodeOf(tree, id).children;
  while (next !== undefined) {
    const node = nodeOf(tree, next);
    line.push(node);
    [next] = node.children;
  }
  return line;
}

/** The nodes of the main line, without the root. */
export const mainLine = (tree: GameTree): GameNode[] => lineFrom(tree, ROOT);

/** The positions from the root to the end of the given path, the root's included. */
export function positionsAlong<P>(
  ruleset: Ruleset<P>,
  start: string,
  path: readonly { move: Move }[],
): P[] {
  const positions = [ruleset.start(start)];
  for (const { move } of path) positions.push(ruleset.play(positions.at(-1)!, move));
  return positions;
}

/** Visits every node in the order in which a printed score has them; the root first. */
export function* nodesInOrder(tree: GameTree): Generator<GameNode> {
  const pending: NodeId[] = [ROOT];
  while (pending.length > 0) {
    const node = nodeOf(tree, pending.pop()!);
    yield node;
    for (let i = node.children.length - 1; i >= 0; i--) pending.push(node.children[i]!);
  }
}

/** A node while it is being built. */
export interface NodeDraft extends Omit<Mutable<GameNode>, 'marks' | 'symbols' | 'extras'> {
  marks?: Mark[];
  symbols?: number[];
  extras?: string[];
  children: NodeId[];
}

/** Builds a tree quickly where nobody holds it yet, as readers do. Ids are given in order of creation. */
export class TreeBuilder {
  /** By id. */
  private readonly nodes: NodeDraft[];
  /** Half moves from the root, by id. */
  private readonly depths = [0];

  constructor(
    private readonly kind: GameKind,
    private readonly start: string,
  ) {
    this.nodes = [{ id: ROOT, parent: null, move: NULL_MOVE, children: [] }];
  }

  /** Adds a last child and returns its id. */
  add(parent: NodeId, move: Move): NodeId {
    const id = this.nodes.length;
    this.nodes.push({ id, parent, move, children: [] });
    this.nodes[parent]!.children.push(id);
    this.depths.push(this.depths[parent]! + 1);
    return id;
  }

  /** The limit that another child of `parent` would break, or null. */
  fullAt(parent: NodeId): 'nodes' | 'plies' | null {
    if (this.nodes.length >= LIMITS.nodes) return 'nodes';
    return this.depths[parent]! >= LIMITS.plies ? 'plies' : null;
  }

  node(id: NodeId): NodeDraft {
    return this.nodes[id]!;
  }

  /** Half moves from the root to a node. */
  depth(id: NodeId): number {
    return this.depths[id]!;
  }

  get size(): number {
    return this.nodes.length;
  }

  build(): GameTree {
    const nodes = new Map<NodeId, NodeDraft>();
    for (const node of this.nodes) nodes.set(node.id, node);
    return { kind: this.kind, start: this.start, nodes };
  }
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** The limit that what is written at a node breaks, or null. */
export function overLimitAt(
  node: Annotations,
): 'commentLength' | 'extras' | 'marks' | 'symbols' | null {
  for (const words of [node.comment, node.before, node.lesson])
    if (words !== undefined && words.length > LIMITS.commentLength) return 'commentLength';
  for (const list of ['extras', 'marks', 'symbols'] as const)
    if ((node[list]?.length ?? 0) > LIMITS[list]) return list;
  return null;
}

/** The limit that a whole tree breaks, or null; see {@link LIMITS}. */
export function treeLimit(
  tree: GameTree,
): 'nodes' | 'plies' | 'nesting' | ReturnType<typeof overLimitAt> {
  if (tree.nodes.size > LIMITS.nodes) return 'nodes';
  const pending = [{ id: ROOT, plies: 0, nesting: 0 }];
  for (let next = pending.pop(); next; next = pending.pop()) {
    const node = nodeOf(tree, next.id);
    if (next.plies > LIMITS.plies) return 'plies';
    if (next.nesting > LIMITS.nesting) return 'nesting';
    const limit = overLimitAt(node);
    if (limit) return limit;
    for (const [index, id] of node.children.entries())
      pending.push({ id, plies: next.plies + 1, nesting: next.nesting + (index > 0 ? 1 : 0) });
  }
  return null;
}
