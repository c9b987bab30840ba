import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GAME_KINDS } from './ruleset';
import { EVERYTHING, gameOf } from '../../../tests/support/games';
import { expectSound, stepFor } from '../../../tests/support/steps';
import { rebaseSteps } from './rebase';
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
