import * as z from 'zod';
import { GAME_KINDS, type Position } from './ruleset';
import { rulesetOf } from '../rulesets';
import type { Score } from './score';
import type { GameRecord } from './record';
import { END_REASONS, RESULTS } from './result';
import { NULL_MOVE, type Move } from './move';
import { LIMITS } from './problem';
import {
  CAUSES,
  ANNOTATION_FIELDS,
  nodesInOrder,
  ROOT,
  type Annotations,
  type GameNode,
  type GameTree,
  type NodeId,
} from './tree';

const square = z.number().int().min(0).max(80);
const nodeId = z.number().int().nonnegative();

export const scoreSchema: z.ZodType<Score> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('cp'), cp: z.number().int() }),
  z.object({
    kind: z.literal('mate'),
    plies: z.number().int().nonnegative(),
    winner: z.union([z.literal(0), z.literal(1)]),
  }),
]);

const text = z.string().max(LIMITS.commentLength);

export const annotationsSchema = z.object({
  before: text.optional(),
  comment: text.optional(),
  symbols: z.array(z.number().int().min(1).max(255)).max(LIMITS.symbols).readonly().optional(),
  marks: z
    .array(
      z.object({
        colour: z.enum(['green', 'red', 'yellow', 'blue']),
        square,
        to: square.optional(),
      }),
    )
    .max(LIMITS.marks)
    .readonly()
    .optional(),
  clock: z.number().nonnegative().optional(),
  spent: z.number().nonnegative().optional(),
  evaluation: z.object({ score: scoreSchema, depth: z.number().int().optional() }).optional(),
  lesson: text.optional(),
  cause: z.enum(CAUSES).optional(),
  extras: z.array(text).max(LIMITS.extras).readonly().optional(),
});

const oneLine = z.string().regex(/^[^\r\n]*$/, 'one line of text');

export const tagSchema = z.object({
  name: oneLine.regex(/\S/, 'not empty').max(LIMITS.tagName),
  value: oneLine.max(LIMITS.tagLength),
});

const nodeSchema = annotationsSchema.extend({
  id: nodeId,
  parent: nodeId.nullable(),
  /** UCI or USI; empty at the root. */
  move: z.string().max(8),
});

export const recordSchema = z.object({
  kind: z.enum(GAME_KINDS),
  start: z.string().max(200),
  /** Parents before their children, the root first. */
  nodes: z.array(nodeSchema).min(1).max(LIMITS.nodes),
  tags: z.array(tagSchema).max(LIMITS.tags),
  result: z.enum(RESULTS),
  end: z.enum(END_REASONS).nullable(),
});

/** A game as plain data, for storing and sending. */
export type RecordJson = z.infer<typeof recordSchema>;
type NodeJson = RecordJson['nodes'][number];

const nodeToJson = (
  { children: _, move, ...node }: GameNode,
  code: (move: Move) => string,
): NodeJson => ({ ...node, move: node.parent === null ? '' : code(move) });

/** Writes a game as plain data. */
export function toJson({ tree, tags, result, end }: GameRecord): RecordJson {
  const { code } = rulesetOf(tree.kind);
  const nodes = Array.from(nodesInOrder(tree), (node) => nodeToJson(node, code));
  return { kind: tree.kind, start: tree.start, nodes, tags: [...tags], result, end };
}

/**
 * Reads a game from data that {@link toJson} wrote. The shape is taken as checked; moves are, where `legality` asks
 * for it, replayed.
 * @throws Error when nodes don't form a tree or a move is no move or not legal
 */
export function fromJson(
  json: RecordJson,
  { legality }: { legality: 'trusted' | 'checked' },
): GameRecord {
  const ruleset = rulesetOf(json.kind);
  const nodes = new Map<NodeId, GameNode & { children: NodeId[] }>();
  const positions = new Map<NodeId, Position>();
  if (legality === 'checked') positions.set(ROOT, ruleset.start(json.start));
  for (const node of json.nodes) {
    const parent = node.parent === null ? null : nodes.get(node.parent);
    const isRoot = node.id === ROOT;
    if (isRoot !== (node.parent === null) || parent === undefined || nodes.has(node.id))
      throw new Error(`node ${node.id} does not fit the tree`);
    const move = isRoot ? NULL_MOVE : ruleset.parseCode(node.move);
    if (move === null) throw new Error(`${node.move} is no move`);
    if (legality === 'checked' && !isRoot)
      positions.set(node.id, playChecked(json.kind, positions.get(node.parent!)!, move));
    nodes.set(node.id, {
      id: node.id,
      parent: node.parent,
      move,
      children: [],
      ...pickAnnotations(node),
    });
    parent?.children.push(node.id);
  }
  if (!nodes.has(ROOT)) throw new Error('the tree has no root');
  const { kind, start, tags, result, end } = json;
  return { tree: { kind, start, nodes }, tags, result, end };
}

/** A node as it is stored: one that only goes on from the one before it is its move alone. */
export type PackedNode = NodeJson | string;

/** A tree's nodes in a fifth of the room of {@link RecordJson}. */
export function packNodes(tree: GameTree): PackedNode[] {
  const { code } = rulesetOf(tree.kind);
  const packed: PackedNode[] = [];
  let last: NodeId | null = null;
  for (const node of nodesInOrder(tree)) {
    const goesOn = last !== null && node.parent === last && node.id === last + 1;
    last = node.id;
    packed.push(
      goesOn && Object.keys(node).length === BARE ? code(node.move) : nodeToJson(node, code),
    );
  }
  return packed;
}

/** Fields of a node on which nothing was written. */
const BARE = 4;

/** The nodes that {@link packNodes} was given. */
export function unpackNodes(packed: readonly PackedNode[]): NodeJson[] {
  let last: NodeId = ROOT;
  return packed.map((node) => {
    const whole = typeof node === 'string' ? { id: last + 1, parent: last, move: node } : node;
    last = whole.id;
    return whole;
  });
}

function playChecked(kind: RecordJson['kind'], position: Position, move: Move): Position {
  const ruleset = rulesetOf(kind);
  const legal = move === NULL_MOVE ? !ruleset.inCheck(position) : ruleset.isLegal(position, move);
  if (!legal) throw new Error(`${ruleset.code(move)} is not legal in ${ruleset.write(position)}`);
  return ruleset.play(position, move);
}

function pickAnnotations(node: Annotations): Annotations {
  const picked: Record<string, unknown> = {};
  for (const field of ANNOTATION_FIELDS) if (node[field] !== undefined) picked[field] = node[field];
  return picked;
}
