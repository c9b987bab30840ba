import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { accuracyDiffers, meanAccuracy, shares } from './peers';

const many = (mean: number, games: number, spread = 10): number[] =>
  Array.from({ length: games }, (_, index) => mean + (index % 2 === 0 ? spread : -spread));

describe('the mean of accuracies', () => {
  it('has an error from two games on, and none of nothing', () => {
    expect(meanAccuracy([])).toBeNull();
    expect(meanAccuracy([80])).toEqual({ mean: 80, error: null, games: 1 });
    // the standard deviation of 70 and 90 is √200, over √2
    expect(meanAccuracy([70, 90])).toEqual({ mean: 80, error: 10, games: 2 });
  });
});

describe('a difference of accuracies', () => {
  const differ = (own: readonly number[], theirs: readonly number[]) =>
    accuracyDiffers(meanAccuracy(own)!, meanAccuracy(theirs)!);

  it('is told where it exceeds 1.96 errors of both means', () => {
    // each mean of 100 games has an error of 1.005, their difference one of 1.421
    expect(differ(many(82.7, 100), many(80, 100))).toBeNull();
    expect(differ(many(82.9, 100), many(80, 100))).toBe('more');
    expect(differ(many(80, 100), many(82.9, 100))).toBe('less');
  });

  it('is not told of fewer than ten games', () => {
    expect(differ(many(90, 10, 1), many(60, 10, 1))).toBe('more');
    expect(differ(many(90, 9, 1), many(60, 10, 1))).toBeNull();
    expect(differ(many(90, 10, 1), many(60, 9, 1))).toBeNull();
  });
});

describe('shares by accuracy', () => {
  it('count each game in one stretch of five points', () => {
    expect(shares([0, 4.9, 5, 100]).map((share, index) => [index, share])).toEqual(
      Array.from({ length: 20 }, (_, index) => [
        index,
        index === 0 ? 50 : index === 1 || index === 19 ? 25 : 0,
      ]),
    );
    fc.assert(
      fc.property(
        fc.array(fc.float({ min: 0, max: 100, noNaN: true }), { minLength: 1 }),
        (some) => {
          expect(shares(some).reduce((sum, share) => sum + share, 0)).toBeCloseTo(100);
        },
      ),
    );
  });
});
