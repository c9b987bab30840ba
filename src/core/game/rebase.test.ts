import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';
import { GAME_KINDS } from './ruleset';
import { EVERYTHING, gameOf } from '../../../tests/support/games';
import { expectSound, stepFor } from '../../../tests/support/steps';
import { clash, rebase, rebaseChanges, rebaseSteps } from './rebase';
import type { GameRecord } from './record';
import { applyStep, applySteps, type Step } from './steps';
import { nodeOf, ROOT, TreeBuilder } from './tree';

const choices = fc.array(fc.tuple(fc.nat(), fc.nat(), fc.nat()), { maxLength: 6 });

function stepsFrom(record: GameRecord, chosen: readonly number[][], firstId: number): Step[] {
  const steps: Step[] = [];
  let game = record;
  for (const [index, [type, a, b]] of chosen.entries()) {
    const step = stepFor(game, [type!, a!, b!, firstId + index]);
    steps.push(step);
    game = applyStep(game, step);
  }
  return steps;
}

describe.each(GAME_KINDS)('work on a %s game that others changed', (kind) => {
  it('always applies on top of theirs and leaves a sound tree', () => {
    fc.assert(
      fc.property(gameOf(kind, EVERYTHING, ['Event']), choices, choices, (base, mine, theirs) => {
        const own = stepsFrom(base, mine, 1);
        const others = stepsFrom(base, theirs, 101);
        const rebased = rebaseSteps(base, own, others);
        expectSound(applySteps(applySteps(base, others), rebased));
        if (!others.some(({ type }) => type === 'remove')) expect(rebased).toHaveLength(own.length);
      }),
      { numRuns: 200 },
    );
  });

  it('that does not clash keeps all that both wrote', () => {
    fc.assert(
      fc.property(gameOf(kind, EVERYTHING, ['Event']), choices, choices, (base, mine, theirs) => {
        const own = stepsFrom(base, mine, 1);
        const others = stepsFrom(base, theirs, 101);
        fc.pre(!clash(base, own, others));
        const both = rebase(base, own, others);
        const one = applySteps(applySteps(base, others), both.mine);
        const other = applySteps(applySteps(base, own), both.theirs);
        const written = ({ tree, tags, result }: GameRecord) => ({
          tags: tags.toSorted((a, b) => (a.name < b.name ? -1 : 1)),
          result,
          nodes: [...tree.nodes.values()]
            .map(({ children, ...node }) => ({ ...node, children: children.toSorted() }))
            .sort((a, b) => a.id - b.id),
        });
        expect(written(one)).toEqual(written(other));
      }),
      { numRuns: 200 },
    );
  });

  it('can still be taken back, down to what the others touched', () => {
    fc.assert(
      fc.property(gameOf(kind, EVERYTHING, ['Event']), choices, choices, (base, mine, theirs) => {
        const own = stepsFrom(base, mine, 1);
        const others = stepsFrom(base, theirs, 101);
        const after = applySteps(base, others);
        let game = after;
        for (const change of rebaseChanges(
          base,
          own.map((step) => [step]),
          others,
          after,
        )) {
          game = applySteps(game, change);
          expectSound(game);
        }
      }),
      { numRuns: 100 },
    );
  });

  it('is as it was where the others did nothing, and nothing is left where they removed its place', () => {
    fc.assert(
      fc.property(gameOf(kind, EVERYTHING, []), choices, (base, mine) => {
        const own = stepsFrom(base, mine, 1);
        expect(rebaseSteps(base, own, [])).toEqual(own);
        const [first] = base.tree.nodes.get(0)!.children;
        fc.pre(first !== undefined);
        const say: Step = { type: 'annotate', node: first!, field: 'comment', value: 'late' };
        expect(rebaseSteps(base, [say], [{ type: 'remove', node: first! }])).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});

describe('what two people wrote', () => {
  const ruleset = rulesetOf('chess');
  const move = (code: string) => ruleset.parseCode(code)!;
  const EMPTY: GameRecord = {
    tree: new TreeBuilder('chess', ruleset.startText).build(),
    tags: [],
    result: '*',
    end: null,
  };
  const base = ['e2e4', 'd2d4', 'c2c4'].reduce(
    (game, code, index) => applyStep(game, insert(ROOT, code, 100 + index, index)),
    EMPTY,
  );
  const [e4, d4] = nodeOf(base.tree, ROOT).children as [number, number, number];
  const game = applySteps(base, [insert(e4, 'e7e5', 110), insert(e4, 'c7c5', 111, 1)]);

  function insert(parent: number, code: string, id: number, index = 0): Step {
    return { type: 'insert', parent, index, branch: [{ id, parent: null, move: move(code) }] };
  }
  const say = (node: number, field: 'comment' | 'before', value: string): Step => ({
    type: 'annotate',
    node,
    field,
    value,
  });
  const tag = (name: string, value: string): Step => ({ type: 'tag', name, value });
  const finish = (result: '1-0' | '0-1'): Step => ({ type: 'finish', result, end: null });

  it.each<[string, Step, Step]>([
    ['words at one move', say(e4, 'comment', 'mine'), say(e4, 'comment', 'theirs')],
    ['one tag', tag('Event', 'mine'), tag('Event', 'theirs')],
    ['the result', finish('1-0'), finish('0-1')],
    ['the same move', insert(d4, 'd7d5', 1), insert(d4, 'd7d5', 2)],
    [
      'the order at one move',
      { type: 'place', node: d4, index: 0 },
      { type: 'place', node: e4, index: 2 },
    ],
    ['words in a line that was removed', say(110, 'comment', 'm'), { type: 'remove', node: e4 }],
    ['a move in a line that was removed', insert(110, 'g1f3', 1), { type: 'remove', node: e4 }],
  ])('clashes in %s', (_, mine, theirs) => {
    expect(clash(game, [mine], [theirs])).toBe(true);
    expect(clash(game, [theirs], [mine])).toBe(true);
  });

  it.each<[string, Step, Step]>([
    ['words before and after a move', say(e4, 'before', 'm'), say(e4, 'comment', 't')],
    ['words at two moves', say(e4, 'comment', 'm'), say(d4, 'comment', 't')],
    ['two tags', tag('Event', 'm'), tag('Site', 't')],
    ['a tag and the result', tag('Event', 'm'), finish('0-1')],
    ['two moves at one place', insert(d4, 'd7d5', 1), insert(d4, 'g8f6', 2)],
    ['one move at two places', insert(d4, 'g8f6', 1), insert(e4, 'g8f6', 2)],
    [
      'the order at two moves',
      { type: 'place', node: d4, index: 0 },
      { type: 'place', node: 111, index: 0 },
    ],
    [
      'words outside the line that was removed',
      say(d4, 'comment', 'm'),
      { type: 'remove', node: e4 },
    ],
  ])('does not clash in %s', (_, mine, theirs) => {
    expect(clash(game, [mine], [theirs])).toBe(false);
    expect(clash(game, [theirs], [mine])).toBe(false);
  });
});
