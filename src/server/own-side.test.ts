import { expect, it } from 'vitest';
import { ownSideOf } from './own-side';

it.each([
  // who they are, who plays, what they said
  [7, [7, 8], null, 0],
  [7, [8, 7], null, 1],
  [7, [8, 9], null, null],
  [7, [8, null], null, null],
  [null, [7, 8], null, null],
  [null, [null, null], null, null],
  // what they said stands above it
  [7, [7, 8], 1, 1],
  [7, [8, 7], 0, 0],
  [null, [8, null], 0, 0],
] as const)(
  'of %s in a game of %j, having said %s: %s',
  (playerId, [first, second], ownSide, side) => {
    const facts = { ownSide, firstPlayerId: first, secondPlayerId: second };
    expect(ownSideOf({ playerId }, facts)).toBe(side);
  },
);
