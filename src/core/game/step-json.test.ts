import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVERYTHING, gameOf } from '../../../tests/support/games';
import { stepFor } from '../../../tests/support/steps';
import { NULL_MOVE } from './move';
import { GAME_KINDS } from './ruleset';
import { stepFromJson, stepToJson, type StepJson } from './step-json';
import type { Step } from './steps';
import { ROOT } from './tree';

describe.each(GAME_KINDS)('steps of %s as they are stored', (kind) => {
  it('come back the same, with moves in codes', () =>
    fc.assert(
      fc.property(
        gameOf(kind, EVERYTHING, ['Event']),
        fc.tuple(fc.nat(), fc.nat(), fc.nat(), fc.nat()),
        (record, choice) => {
          const step = stepFor(record, choice);
          const json = JSON.parse(JSON.stringify(stepToJson(kind, step))) as StepJson;
          expect(stepFromJson(kind, json)).toEqual(JSON.parse(JSON.stringify(step)));
          if (json.type === 'insert')
            for (const { move } of json.branch) expect(typeof move).toBe('string');
        },
      ),
      { numRuns: 60 },
    ));

  it('hold a pass', () => {
    const branch = [{ id: 1, parent: null, move: NULL_MOVE }] as const;
    const step: Step = { type: 'insert', parent: ROOT, index: 0, branch };
    expect(stepFromJson(kind, stepToJson(kind, step))).toEqual(step);
  });

  it('are refused where a move is none', () => {
    const json: StepJson = {
      type: 'insert',
      parent: ROOT,
      index: 0,
      branch: [{ id: 1, parent: null, move: 'nonsense' }],
    };
    expect(() => stepFromJson(kind, json)).toThrow('nonsense');
  });
});
