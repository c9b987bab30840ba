import { describe, expect, it } from 'vitest';
import { randomSource } from '../draw';
import { afterTrial, beginSearch, drawTrial, type MarginSearch, type Trial } from './margins';

const BEST: Record<string, number> = { WIDE: 140, NARROW: 60, SMALL: 6, NEGATIVE: -40 };
const BEGIN = { WIDE: 100, NARROW: 80, SMALL: 4, NEGATIVE: -30 };

/** Elo that values are worth: fewer, the further they are from the best. */
const worthOf = (values: Readonly<Record<string, number>>): number =>
  Object.entries(BEST).reduce(
    (sum, [name, best]) =>
      sum - 6 * ((values[name]! - best) / Math.max(1, 0.15 * Math.abs(best))) ** 2,
    0,
  );

/** Two games between sets of values, each won with the chance that their difference stands for. */
function played({ plus, minus }: Trial, random: () => number): number {
  const score = 1 / (1 + 10 ** ((worthOf(minus) - worthOf(plus)) / 400));
  const game = (): number => (random() < 0.4 ? 0 : random() < score ? 1 : -1);
  return game() + game();
}

function searched(pairs: number, seed: number): MarginSearch {
  const random = randomSource(seed);
  let search = beginSearch(BEGIN);
  for (let pair = 0; pair < pairs; pair++) {
    const trial = drawTrial(search, random);
    search = afterTrial(search, trial, played(trial, random));
  }
  return search;
}

describe('a search for margins by games', () => {
  it.each([1, 2, 3])('comes near the best of several at once, by noisy games (%i)', (seed) => {
    const { values, pairs } = searched(4000, seed);
    expect(pairs).toBe(4000);
    expect(worthOf(values)).toBeGreaterThan(worthOf(BEGIN) / 3);
  });

  it('tries whole numbers on both sides of where it stands, on average by a step', () => {
    const random = randomSource(5);
    const search = beginSearch(BEGIN);
    const sums = { WIDE: 0, SMALL: 0 };
    for (let times = 0; times < 2000; times++) {
      const { ways, plus, minus } = drawTrial(search, random);
      for (const name of ['WIDE', 'SMALL'] as const) {
        expect(Number.isInteger(plus[name])).toBe(true);
        sums[name] += (ways[name]! * (plus[name]! - minus[name]!)) / 2 / 2000;
      }
    }
    expect(sums.WIDE).toBeCloseTo(20, 0);
    expect(sums.SMALL).toBeCloseTo(1, 1);
  });

  it('stays where it is after a draw, and goes the way of who won, the other after a loss', () => {
    const search = beginSearch(BEGIN);
    const trial = drawTrial(search, randomSource(9));
    expect(afterTrial(search, trial, 0).values).toEqual(BEGIN);
    const [won, lost] = [afterTrial(search, trial, 2), afterTrial(search, trial, -2)];
    for (const name of Object.keys(BEGIN) as (keyof typeof BEGIN)[]) {
      expect(Math.sign(won.values[name]! - BEGIN[name])).toBe(trial.ways[name]);
      expect(won.values[name]! + lost.values[name]!).toBeCloseTo(2 * BEGIN[name]);
    }
  });

  it('moves less the longer it has gone on', () => {
    const late: MarginSearch = { ...beginSearch(BEGIN), pairs: 5000 };
    const random = randomSource(3);
    const moved = (search: MarginSearch): number =>
      Math.abs(afterTrial(search, drawTrial(search, random), 2).values.WIDE! - BEGIN.WIDE);
    expect(moved(late)).toBeLessThan(moved(beginSearch(BEGIN)) / 5);
  });
});
