import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gamesIn, NO_SCORE, outcomeFor, shareInterval, shareOf, type Score } from './score-share';

const score = (won: number, drawn: number, lost: number): Score => ({ won, drawn, lost });

it.each([
  ['1-0', 0, 'won'],
  ['1-0', 1, 'lost'],
  ['0-1', 0, 'lost'],
  ['0-1', 1, 'won'],
  ['1/2-1/2', 0, 'drawn'],
  ['1/2-1/2', 1, 'drawn'],
  ['*', 0, null],
  ['*', 1, null],
] as const)('%s is for side %s: %s', (result, side, expected) => {
  expect(outcomeFor(result, side)).toBe(expected);
});

describe('a share of points', () => {
  it('is not known without games', () => {
    expect(shareOf(NO_SCORE)).toBeNull();
    expect(shareInterval(NO_SCORE)).toBeNull();
  });

  it.each([
    [score(1, 0, 1), 50, 9.5, 90.5],
    [score(10, 0, 0), 100, 72.2, 100],
    [score(0, 0, 10), 0, 0, 27.8],
    [score(50, 0, 50), 50, 40.4, 59.6],
    [score(0, 100, 0), 50, 40.4, 59.6],
    [score(81, 0, 182), 30.8, 25.5, 36.6],
  ])('of %j is %d, from %d to %d', (known, share, from, to) => {
    expect(shareOf(known)).toBeCloseTo(share, 1);
    const interval = shareInterval(known)!;
    expect(interval[0]).toBeCloseTo(from, 1);
    expect(interval[1]).toBeCloseTo(to, 1);
  });

  it('lies in its interval, between 0 and 100, and more games make it narrower', () => {
    const count = fc.integer({ min: 0, max: 500 });
    fc.assert(
      fc.property(count, count, count, (won, drawn, lost) => {
        const known = score(won, drawn, lost);
        fc.pre(gamesIn(known) > 0);
        const [from, to] = shareInterval(known)!;
        const share = shareOf(known)!;
        expect(from).toBeGreaterThanOrEqual(-1e-9);
        expect(to).toBeLessThanOrEqual(100 + 1e-9);
        expect(share).toBeGreaterThanOrEqual(from - 1e-9);
        expect(share).toBeLessThanOrEqual(to + 1e-9);
        const [narrowFrom, narrowTo] = shareInterval(score(won * 4, drawn * 4, lost * 4))!;
        expect(narrowTo - narrowFrom).toBeLessThan(to - from);
      }),
    );
  });
});
