import { describe, expect, it } from 'vitest';
import { lossIn, verdictHolds } from './verdict-holds';

const look = (best: number, played: number, isBest = false) => ({ best, played, isBest });

it('what is best loses nothing, and nothing loses less', () => {
  expect(lossIn(look(60, 50))).toBe(10);
  expect(lossIn(look(60, 50, true))).toBe(0);
  expect(lossIn(look(50, 60))).toBe(0);
});

describe('a verdict', () => {
  it.each([
    // another move than the best, nothing has moved: 3 points about each threshold, and all losses from 4
    ['short', 0, 0, true],
    ['short', 2.9, 2.9, true],
    ['short', 3, 3, true],
    ['short', 3.1, 3.1, false],
    ['short', 4, 4, false],
    ['short', 60, 60, false],
    // half of what has moved counts as doubt
    ['short', 1, -3, true],
    ['short', 1, -3.1, false],
    // a longer look leaves small losses at that
    ['long', 6, 6, true],
    ['long', 10.4, 10.4, true],
    ['long', 10.6, 10.6, false],
    ['long', 13.4, 13.4, false],
    ['long', 13.6, 13.6, true],
    ['long', 22.4, 22.4, true],
    ['long', 22.6, 22.6, false],
    ['long', 25.4, 25.4, false],
    ['long', 25.6, 25.6, true],
    ['long', 15.5, 19.4, true],
    ['long', 15.5, 19.6, false],
    ['long', 15.5, 11.4, false],
  ] as const)(
    'after a %s look at a loss of %d, before it %d: holds %s',
    (length, now, before, holds) =>
      expect(verdictHolds(look(70, 70 - now), look(70, 70 - before), length)).toBe(holds),
  );

  it.each([
    ['short', 3, true],
    ['short', 3.1, false],
    ['long', 4, true],
    ['long', 4.1, false],
    ['long', -30, true],
  ] as const)(
    'on the best move, after a %s look, with the position after it worse by %d: holds %s',
    (length, worse, holds) =>
      expect(verdictHolds(look(50, 50 - worse, true), look(50, 50), length)).toBe(holds),
  );
});
