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
    [0, true],
    [1, true],
    [1.1, false],
    [12, false],
    [60, false],
  ])('after the first look at a loss of %d: holds %s', (now, holds) =>
    expect(verdictHolds(look(70, 70 - now), null)).toBe(holds),
  );

  it.each([
    // nothing has moved: 1.5 points about the thresholds of a mistake and a blunder
    [6, 6, true],
    [10.4, 10.4, true],
    [10.6, 10.6, false],
    [13.4, 13.4, false],
    [13.6, 13.6, true],
    [22.4, 22.4, true],
    [22.6, 22.6, false],
    [25.4, 25.4, false],
    [25.6, 25.6, true],
    // half of what has moved counts as doubt
    [15.5, 19.4, true],
    [15.5, 19.6, false],
    [15.5, 11.4, false],
  ])('after a longer look at a loss of %d, before it %d: holds %s', (now, before, holds) =>
    expect(verdictHolds(look(70, 70 - now), look(70, 70 - before))).toBe(holds),
  );

  it.each([
    [null, 3, true],
    [null, 3.1, false],
    [look(50, 50), 4, true],
    [look(50, 50), 4.1, false],
    [look(50, 50), -30, true],
  ] as const)(
    'on the best move, after a look before it of %j, with the position after it worse by %d: holds %s',
    (before, worse, holds) => expect(verdictHolds(look(50, 50 - worse, true), before)).toBe(holds),
  );
});
