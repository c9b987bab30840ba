import { describe, expect, it } from 'vitest';
import { mainLineOf } from '../../../tests/support/lines';
import { isRemark } from './remark-step';
import { applyStep, type Step } from './steps';
import { ANNOTATION_FIELDS, mainLine, ROOT } from './tree';
import { rulesetOf } from '../rulesets';

const game = mainLineOf('chess', ['e2e4', 'e7e5']);
const [first, second] = mainLine(game.tree).map(({ id }) => id) as [number, number];
const move = (code: string) => rulesetOf('chess').parseCode(code)!;
const insert = (parent: number, index: number, code: string, id = 50): Step => ({
  type: 'insert',
  parent,
  index,
  branch: [{ id, parent: null, move: move(code) }],
});
const withVariation = applyStep(game, insert(ROOT, 1, 'd2d4')).tree;
const may = (step: Step, own: readonly number[] = []): boolean =>
  isRemark(withVariation, step, (node) => own.includes(node));

describe('a remark', () => {
  it.each([...ANNOTATION_FIELDS])(
    'may write into %s only where that is said of a game',
    (field) => {
      const step: Step = { type: 'annotate', node: first, field, value: undefined };
      expect(may(step)).toBe(!['clock', 'spent', 'evaluation', 'extras'].includes(field));
    },
  );

  it('puts variations in beside the moves that were played, and never before or behind them', () => {
    expect(may(insert(ROOT, 2, 'c2c4'))).toBe(true);
    expect(may(insert(50, 0, 'g1f3', 51))).toBe(true);
    expect(may(insert(ROOT, 0, 'c2c4'))).toBe(false);
    expect(may(insert(second, 0, 'g1f3'))).toBe(false);
    expect(may(insert(77, 1, 'g1f3'))).toBe(false);
  });

  it('takes a variation away only where it is its own', () => {
    expect(may({ type: 'remove', node: 50 }, [50])).toBe(true);
    expect(may({ type: 'remove', node: 50 })).toBe(false);
    expect(may({ type: 'remove', node: first }, [first])).toBe(false);
    expect(may({ type: 'remove', node: ROOT }, [ROOT])).toBe(false);
  });

  it('changes neither order, header nor result', () => {
    expect(may({ type: 'place', node: 50, index: 0 }, [50])).toBe(false);
    expect(may({ type: 'tag', name: 'White', value: 'x' })).toBe(false);
    expect(may({ type: 'finish', result: '1-0', end: null })).toBe(false);
  });
});
