import { expect, it } from 'vitest';
import { ownSideOf } from './own-side';

const owner = { id: '1', name: 'mirela', playerName: 'Mirela Tanase' };

it.each([
  [['Mirela Tanase', 'Jonas Brandt'], null, 0],
  [['Jonas Brandt', 'Mirela Tanase'], null, 1],
  [['Jonas Brandt', null], null, null],
  // what they said stands above the names
  [['Mirela Tanase', 'Jonas Brandt'], 1, 1],
  [['Jonas Brandt', 'Mirela Tanase'], 0, 0],
  [['Jonas Brandt', null], 0, 0],
] as const)('of %j, having said %s: %s', (names, said, side) => {
  expect(ownSideOf(owner, names, said)).toBe(side);
});
