import { expect, it } from 'vitest';
import { stolenBetween } from './stolen';

it('of what the cores had to give, others took a part', () => {
  const before = 'cpu  100 0 50 800 10 0 5 20 0 0\ncpu0 50 0 25 400 5 0 2 10 0 0\n';
  const after = 'cpu  130 0 60 840 10 0 5 40 7 0\ncpu0 65 0 30 420 5 0 2 20 3 0\n';
  expect(stolenBetween(before, after)).toBeCloseTo(20 / 100);
  expect(stolenBetween(before, before)).toBe(0);
});
