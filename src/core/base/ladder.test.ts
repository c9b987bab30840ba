import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countToJoin, MOST_JOINED, SEGMENT_GAMES } from './ladder';

/** The segments of a base that grows by some games at a time, and how many games were written again on the way. */
function grown(steps: readonly number[]): { sizes: number[]; written: number } {
  const sizes: number[] = [];
  let written = 0;
  for (const step of steps) {
    sizes.push(step);
    for (let count = countToJoin(sizes); count > 0; count = countToJoin(sizes)) {
      const sum = sizes.splice(-count).reduce((total, size) => total + size, 0);
      sizes.push(sum);
      written += sum;
    }
  }
  return { sizes, written };
}

describe('segments that are joined', () => {
  it('are as many as the ladder has rungs, each game written again a few times', () => {
    const { sizes, written } = grown(Array.from({ length: 64 }, () => SEGMENT_GAMES));
    expect(sizes).toEqual(Array.from({ length: 4 }, () => MOST_JOINED));
    expect(written).toBe(2 * 64 * SEGMENT_GAMES);
  });

  it('stay few when a base grows game by game', () => {
    const { sizes, written } = grown(Array.from({ length: 5000 }, () => 1));
    expect(sizes.length).toBeLessThan(15);
    expect(written).toBeLessThan(5000 * 15);
  });

  it('are never larger than is joined, and few', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: SEGMENT_GAMES }), { maxLength: 120 }),
        (steps) => {
          const { sizes } = grown(steps);
          const all = steps.reduce((sum, step) => sum + step, 0);
          expect(sizes.reduce((sum, size) => sum + size, 0)).toBe(all);
          for (const size of sizes) expect(size).toBeLessThanOrEqual(MOST_JOINED);
        },
      ),
    );
    expect(countToJoin([])).toBe(0);
    expect(countToJoin([5])).toBe(0);
    // what would be too large stays as it is
    const large = MOST_JOINED / 4 + 1;
    expect(countToJoin([large, large, large, large])).toBe(0);
    expect(countToJoin([large - 1, large - 1, large - 1, large - 1])).toBe(4);
    expect(countToJoin([4 * SEGMENT_GAMES, SEGMENT_GAMES, SEGMENT_GAMES, SEGMENT_GAMES])).toBe(0);
  });
});
