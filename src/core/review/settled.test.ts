import { describe, expect, it } from 'vitest';
import { isUnsettled, keepers, type DepthPoint } from './settled';

const curve = (...points: [number, string][]): DepthPoint[] =>
  points.map(([chance, best], index) => ({ depth: 9 + index, chance, best }));

describe('a search that is being watched', () => {
  it('is unsettled until it has looked some way', () => {
    expect(isUnsettled([])).toBe(true);
    expect(isUnsettled([{ depth: 5, chance: 50, best: 'e2e4' }])).toBe(true);
    expect(isUnsettled(curve([50, 'e2e4'], [51, 'e2e4']))).toBe(false);
  });
  it('is settled by a forced mate, however early', () => {
    expect(isUnsettled([{ depth: 2, chance: 100, best: 'a', isMate: true }])).toBe(false);
    const lost = { depth: 9, chance: 0, best: 'a', isMate: true };
    expect(isUnsettled([{ depth: 8, chance: 50, best: 'b' }, lost])).toBe(false);
  });
  it('is unsettled while its number jumps or its move changes, and settles again', () => {
    expect(isUnsettled(curve([50, 'a'], [50, 'a'], [57, 'a']))).toBe(true);
    expect(isUnsettled(curve([50, 'a'], [50, 'b']))).toBe(true);
    expect(isUnsettled(curve([50, 'a'], [57, 'b'], [57, 'b'], [58, 'b'], [57, 'b']))).toBe(false);
  });
});

describe('moves that keep the result', () => {
  it('are those that are no mistake beside the best', () => {
    expect(keepers([60, 54, 49, 48])).toBe(3);
    expect(keepers([60, 48])).toBe(1);
    expect(keepers([60])).toBe(1);
  });
});
