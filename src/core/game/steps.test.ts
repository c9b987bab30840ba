import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gameOf, type Features } from '../../../tests/support/games';
import { rulesetOf } from '../rulesets';
import { boardMove, type Move } from './move';
import type { GameRecord } from './record';
import type { GameKind } from './ruleset';
import { stepSchema } from './step-schema';
import {
  applyStep,
  applySteps,
  invertStep,
  invertSteps,
  mapStep,
  StepError,
  type Branch,
  type Step,
} from './steps';
import { nodeOf, nodesInOrder, pathTo, positionsAlong, ROOT, type NodeId } from './tree';

const FEATURES: Features = {
  variations: true,
  before: false,
  symbols: true,
  marks: true,
  clock: true,
  spent: 1000,
  evaluation: false,
  extras: null,
  breaks: false,
};

const game = (kind: GameKind): fc.Arbitrary<GameRecord> =>
  gameOf(kind, FEATURES, ['Event', 'White']);

/** A step that fits the game, chosen by a few numbers. */
function stepFor(record: GameRecord, [type, a, b, id]: readonly number[]): Step {
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

function insertAt(record: GameRecord, parent: NodeId, choice: number, id: number): Step {
  const { tree } = record;
  const ruleset = rulesetOf(tree.kind);
  const position = positionsAlong(ruleset, tree.start, pathTo(tree, parent)).at(-1);
  const moves = ruleset.moves(position);
  if (moves.length === 0) return { type: 'finish', result: '*', end: null };
  const index = choice % (nodeOf(tree, parent).children.length + 1);
  const branch: Branch = { id: 1_000_000 + id, move: moves[choice % moves.length]!, children: [] };
  return { type: 'insert', parent, index, branch };
}

const numbers = fc.tuple(fc.nat(), fc.nat(), fc.nat(), fc.nat());

/** Every move of the tree is legal, and parents and children agree. */
function expectSound({ tree }: GameRecord): void {
  const ruleset = rulesetOf(tree.kind);
  const positions = new Map<NodeId, unknown>([[ROOT, ruleset.start(tree.start)]]);
  let seen = 0;
  for (const node of nodesInOrder(tree)) {
    seen++;
    if (node.parent === null) continue;
    const before = positions.get(node.parent);
    expect(nodeOf(tree, node.parent).children).toContain(node.id);
    expect(ruleset.isLegal(before, node.move)).toBe(true);
    positions.set(node.id, ruleset.play(before, node.move));
  }
  expect(seen).toBe(tree.nodes.size);
}

describe.each(['chess', 'shogi'] as const)('steps over a %s game', (kind) => {
  it('keep the tree sound, and their inverse restores it exactly', () => {
    fc.assert(
      fc.property(game(kind), numbers, (record, choice) => {
        const step = stepFor(record, choice);
        const changed = applyStep(record, step);
        expectSound(changed);
        const restored = applyStep(changed, invertStep(record, step));
        expect(restored).toEqual(record);
      }),
      { numRuns: 150 },
    );
  });

  it('are undone together, however many', () => {
    fc.assert(
      fc.property(game(kind), fc.array(numbers, { maxLength: 8 }), (record, choices) => {
        const steps: Step[] = [];
        let changed = record;
        for (const [index, choice] of choices.entries()) {
          const step = stepFor(changed, [choice[0], choice[1], choice[2], index]);
          changed = applyStep(changed, step);
          steps.push(step);
        }
        expect(applySteps(changed, invertSteps(record, steps))).toEqual(record);
      }),
      { numRuns: 60 },
    );
  });

  it('carry over what others did meanwhile without ever failing', () => {
    fc.assert(
      fc.property(game(kind), numbers, numbers, (record, mine, theirs) => {
        const step = stepFor(record, [mine[0], mine[1], mine[2], 1]);
        const over = stepFor(record, [theirs[0], theirs[1], theirs[2], 2]);
        const mapped = mapStep(record, step, over);
        const present = applyStep(record, over);
        if (mapped !== null) expectSound(applyStep(present, mapped));
        else expect(over.type).toBe('remove');
      }),
      { numRuns: 300 },
    );
  });

  it('on different nodes come to the same in either order', () => {
    fc.assert(
      fc.property(game(kind), fc.nat(), fc.nat(), (record, a, b) => {
        const nodes = [...nodesInOrder(record.tree)];
        const [one, other] = [nodes[a % nodes.length]!, nodes[b % nodes.length]!];
        fc.pre(one.id !== other.id);
        const comment = (node: NodeId): Step => ({
          type: 'annotate',
          node,
          field: 'comment',
          value: `on ${node}`,
        });
        const insertion = insertAt(record, one.id, b, 7);
        for (const [mine, theirs] of [
          [comment(one.id), comment(other.id)],
          [insertion, comment(other.id)],
        ] as const) {
          const first = applyStep(applyStep(record, mine), mapStep(record, theirs, mine)!);
          const second = applyStep(applyStep(record, theirs), mapStep(record, mine, theirs)!);
          expect(first).toEqual(second);
        }
      }),
      { numRuns: 100 },
    );
  });

  it('survive being sent as text', () => {
    fc.assert(
      fc.property(game(kind), numbers, (record, choice) => {
        const step = stepFor(record, choice);
        const sent = stepSchema.parse(JSON.parse(JSON.stringify(step)));
        expect(applyStep(record, sent)).toEqual(applyStep(record, step));
      }),
      { numRuns: 100 },
    );
  });
});

describe('steps that do not fit', () => {
  const record = fc.sample(game('chess'), { numRuns: 1, seed: 4 })[0]!;
  const insert = (branch: Branch, index = 0): Step => ({
    type: 'insert',
    parent: ROOT,
    index,
    branch,
  });
  const legal = rulesetOf('chess').moves(rulesetOf('chess').start(record.tree.start))[0]!;
  it.each([
    ['illegalMove', insert({ id: 9_000_000, move: boardMove(0, 63), children: [] })],
    ['duplicateId', insert({ id: ROOT, move: legal, children: [] })],
    ['index', insert({ id: 9_000_000, move: legal, children: [] }, 99)],
    ['noNode', { type: 'remove', node: 9_999_999 } as Step],
    ['root', { type: 'remove', node: ROOT } as Step],
  ])('are refused: %s', (code, step) => {
    expect(() => applyStep(record, step)).toThrowError(StepError);
    expect(() => applyStep(record, step)).toThrowError(code);
  });

  it('deep branches are no trouble', () => {
    const knights = [boardMove(6, 21), boardMove(62, 45), boardMove(21, 6), boardMove(45, 62)];
    const start = 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1';
    const empty: GameRecord = {
      ...record,
      tree: {
        kind: 'chess',
        start,
        nodes: new Map([[ROOT, { id: ROOT, parent: null, move: 0 as Move, children: [] }]]),
      },
    };
    let branch: Branch | null = null;
    for (let ply = 3999; ply >= 0; ply--)
      branch = { id: ply + 1, move: knights[ply % 4]!, children: branch ? [branch] : [] };
    const changed = applyStep(empty, insert(branch!));
    expect(changed.tree.nodes.size).toBe(4001);
    const removal: Step = { type: 'remove', node: 1 };
    expect(applyStep(applyStep(changed, removal), invertStep(changed, removal))).toEqual(changed);
  });
});
