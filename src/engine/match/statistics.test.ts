import { describe, expect, it } from 'vitest';
import { randomSource } from '../draw';
import { eloOf, figuresOf, logLikelihoodRatio, SPRT_BOUND, type PairCounts } from './statistics';

const DRAWS = 0.2;

/** A pair of games in which each goes to the first player with a chance that is worth an Elo difference, bar draws. */
function playPair(pairs: PairCounts, elo: number, random: () => number): void {
  const score = 1 / (1 + 10 ** (-elo / 400));
  const game = (): number => {
    if (random() < DRAWS) return 0.5;
    return random() < (score - DRAWS / 2) / (1 - DRAWS) ? 1 : 0;
  };
  pairs[(2 * (game() + game())) as 0]++;
}

const mirrored = (pairs: PairCounts): PairCounts => pairs.toReversed() as PairCounts;

describe('a match', () => {
  it('stands for the Elo difference that the logistic model gives its score', () => {
    expect(eloOf(0.5)).toBeCloseTo(0);
    expect(eloOf(10 / 11)).toBeCloseTo(400);
    expect(eloOf(0.64)).toBeCloseTo(-eloOf(0.36));
    expect(eloOf(1)).toBe(Infinity);
  });

  it('is told from the other player’s side by the same figures, mirrored', () => {
    const pairs: PairCounts = [3, 8, 20, 14, 5];
    const [ours, theirs] = [figuresOf(pairs), figuresOf(mirrored(pairs))];
    expect(theirs.score).toBeCloseTo(1 - ours.score);
    expect(theirs.low).toBeCloseTo(1 - ours.high);
    expect(theirs.eloHigh).toBeCloseTo(-ours.eloLow);
    expect(logLikelihoodRatio(mirrored(pairs), -10, 5)).toBeCloseTo(
      -logLikelihoodRatio(pairs, -5, 10),
    );
  });

  it('that was won throughout has an interval too, which narrows with the games', () => {
    const [few, many] = [figuresOf([0, 0, 0, 0, 10]), figuresOf([0, 0, 0, 0, 100])];
    expect(few).toMatchObject({ score: 1, high: 1 });
    // of Wilson's interval for n of n: n / (n + z²)
    expect(few.low).toBeCloseTo(20 / (20 + 1.96 ** 2));
    expect(many.low).toBeGreaterThan(few.low);
  });

  it.each([0, 60, 250])('has the true score in its interval 19 times of 20 at %i Elo', (elo) => {
    const random = randomSource(elo);
    const score = 1 / (1 + 10 ** (-elo / 400));
    let covered = 0;
    for (let match = 0; match < 1000; match++) {
      const pairs: PairCounts = [0, 0, 0, 0, 0];
      for (let pair = 0; pair < 60; pair++) playPair(pairs, elo, random);
      const { low, high } = figuresOf(pairs);
      if (low <= score && score <= high) covered++;
    }
    expect(covered).toBeGreaterThan(935);
    expect(covered).toBeLessThan(970);
  });

  it('is stopped by the sequential test with the right answer 19 times of 20', () => {
    const random = randomSource(7);
    const [low, high] = [0, 40];
    let [wrong, longest] = [0, 0];
    for (let match = 0; match < 400; match++) {
      const elo = match % 2 === 0 ? low : high;
      const pairs: PairCounts = [0, 0, 0, 0, 0];
      let [ratio, played] = [0, 0];
      while (Math.abs(ratio) < SPRT_BOUND) {
        playPair(pairs, elo, random);
        played++;
        ratio = logLikelihoodRatio(pairs, low, high);
      }
      if (ratio > 0 !== (elo === high)) wrong++;
      longest = Math.max(longest, played);
    }
    expect(wrong / 400).toBeLessThan(0.08);
    expect(longest).toBeLessThan(3000);
  });

  it('in which all goes one way is stopped, though not at once', () => {
    const pairs = (count: number): PairCounts => [0, 0, 0, 0, count];
    expect(logLikelihoodRatio(pairs(3), -5, 10)).toBeLessThan(SPRT_BOUND);
    expect(logLikelihoodRatio(pairs(40), -5, 10)).toBeGreaterThan(SPRT_BOUND);
    expect(logLikelihoodRatio(mirrored(pairs(40)), -5, 10)).toBeLessThan(-SPRT_BOUND);
  });
});
