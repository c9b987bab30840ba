import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GAME_KINDS } from './ruleset';
import { EVERYTHING, gameOf } from '../../../tests/support/games';
import { expectSound, stepFor } from '../../../tests/support/steps';
import { clash, rebase, rebaseChanges, rebaseSteps } from './rebase';
import type { GameRecord } from './record';
import { applyStep, applySteps, type Step } from './steps';

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
