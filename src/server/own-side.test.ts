import { expect, it } from 'vitest';
import { ownSideOf, reviewing } from './own-side';

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

it('of another player is that of their name, whatever the owner has said', () => {
  const owner = { id: 'a', name: 'Mirela', playerId: 7 };
  const seen = reviewing(owner, { player: 8, viewpoint: 'player' });
  const facts = { ownSide: 0, firstPlayerId: 7, secondPlayerId: 8 } as const;
  expect(ownSideOf(seen, facts)).toBe(1);
  expect(ownSideOf(seen, { ...facts, secondPlayerId: 9 })).toBeNull();
  // without a player, or with themselves, it is the owner who looks
  for (const filter of [
    { viewpoint: 'player' },
    { player: 8 },
    { player: 7, viewpoint: 'player' },
  ] as const)
    expect(reviewing(owner, filter)).toBe(owner);
});
