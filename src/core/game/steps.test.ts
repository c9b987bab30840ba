import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVERYTHING, gameOf } from '../../../tests/support/games';
import { expectSound, insertAt, stepFor } from '../../../tests/support/steps';
import { rulesetOf } from '../rulesets';
import { boardMove, type Move } from './move';
import type { GameRecord } from './record';
import { GAME_KINDS, type GameKind } from './ruleset';
import { stepSchema } from './step-schema';
import {
  applyInvertibly,
  applyStep,
  applySteps,
  freshId,
  invertStep,
  mapStep,
  StepError,
  type Branch,
  type Step,
} from './steps';
import { emptyTree, nodesInOrder, ROOT, type NodeId } from './tree';

const game = (kind: GameKind): fc.Arbitrary<GameRecord> =>
  gameOf(kind, EVERYTHING, ['Event', 'White']);

it('a fresh id is none that the tree holds', () => {
  const tree = emptyTree('chess', rulesetOf('chess').startText);
  expect(freshId(tree, () => 0)).toBe(2 ** 20);
  // the largest that the table holds
  expect(freshId(tree, () => 1 - 2 ** -53)).toBeLessThan(2 ** 52);
  const taken = freshId(tree, () => 0.5);
  const nodes = new Map([[taken, { ...tree.nodes.get(ROOT)!, id: taken }]]);
  const rest = [0.5, 0.5, 0.25];
  expect(freshId({ ...tree, nodes }, () => rest.shift()!)).toBeLessThan(taken);
});

const numbers = fc.tuple(fc.nat(), fc.nat(), fc.nat(), fc.nat());

describe.each(GAME_KINDS)('steps over a %s game', (kind) => {
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
        const made = applyInvertibly(record, steps);
        expect(made.record).toEqual(changed);
        expect(applySteps(changed, made.inverse)).toEqual(record);
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
    ['illegalMove', insert([{ id: 9_000_000, parent: null, move: boardMove(0, 63) }])],
    ['duplicateId', insert([{ id: ROOT, parent: null, move: legal }])],
    ['index', insert([{ id: 9_000_000, parent: null, move: legal }], 99)],
    ['illegalMove', insert([{ id: 9_000_000, parent: null, move: (2 ** 22) as Move }])],
    ['noNode', insert([{ id: 9_000_000, parent: 9_000_001, move: legal }])],
    [
      'noNode',
      insert([
        { id: 9_000_000, parent: null, move: legal },
        { id: 9_000_001, parent: null, move: legal },
      ]),
    ],
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
    const branch = Array.from({ length: 10_000 }, (_, ply) => ({
      id: ply + 1,
      parent: ply === 0 ? null : ply,
      move: knights[ply % 4]!,
    })) as unknown as Branch;
    const sent = stepSchema.parse(JSON.parse(JSON.stringify(insert(branch))));
    const changed = applyStep(empty, sent);
    expect(changed.tree.nodes.size).toBe(10_001);
    const removal: Step = { type: 'remove', node: 1 };
    expect(applyStep(applyStep(changed, removal), invertStep(changed, removal))).toEqual(changed);
  });
});
