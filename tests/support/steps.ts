import type { Position } from '@/core/game/ruleset';
import { expect } from 'vitest';
import type { GameRecord } from '@/core/game/record';
import type { Branch, Step } from '@/core/game/steps';
import { nodeOf, nodesInOrder, pathTo, positionsAlong, ROOT, type NodeId } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';

/** A step that fits the game, chosen by a few numbers. */
export function stepFor(record: GameRecord, [type, a, b, id]: readonly number[]): Step {
  const { tree } = record;
  const nodes = [...nodesInOrder(tree)];
  const node = nodes[a! % nodes.length]!;
  const child = node.parent === null ? null : node;
  switch (type! % 6) {
    case 0:
      return insertAt(record, node.id, b!, id!);
    case 1:
      if (child) return { type: 'remove', node: child.id };
      break;
    case 2:
      if (child) {
        const siblings = nodeOf(tree, child.parent!).children.length;
        return { type: 'place', node: child.id, index: b! % siblings };
      }
      break;
    case 3:
      return {
        type: 'annotate',
        node: node.id,
        field: 'comment',
        value: b! % 3 === 0 ? undefined : `words ${b}`,
      };
    case 4:
      return { type: 'tag', name: b! % 2 ? 'Event' : 'Site', value: b! % 3 ? `value ${b}` : null };
  }
  return { type: 'finish', result: b! % 2 ? '1-0' : '*', end: b! % 2 ? 'time' : null };
}

export function insertAt(record: GameRecord, parent: NodeId, choice: number, id: number): Step {
  const { tree } = record;
  const ruleset = rulesetOf(tree.kind);
  const position = positionsAlong(ruleset, tree.start, pathTo(tree, parent)).at(-1)!;
  const moves = ruleset.moves(position);
  if (moves.length === 0) return { type: 'finish', result: '*', end: null };
  const index = choice % (nodeOf(tree, parent).children.length + 1);
  const branch: Branch = [
    { id: 1_000_000 + id, parent: null, move: moves[choice % moves.length]! },
  ];
  return { type: 'insert', parent, index, branch };
}

/** Every move of the tree is legal, and parents and children agree. */
export function expectSound({ tree }: GameRecord): void {
  const ruleset = rulesetOf(tree.kind);
  const positions = new Map<NodeId, Position>([[ROOT, ruleset.start(tree.start)]]);
  let seen = 0;
  for (const node of nodesInOrder(tree)) {
    seen++;
    if (node.parent === null) continue;
    const before = positions.get(node.parent)!;
    expect(nodeOf(tree, node.parent).children).toContain(node.id);
    expect(ruleset.isLegal(before, node.move)).toBe(true);
    positions.set(node.id, ruleset.play(before, node.move));
  }
  expect(seen).toBe(tree.nodes.size);
}
