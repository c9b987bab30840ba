import { expect, it } from 'vitest';
import { looseNameKey, nameKey } from './player-name';

it.each([
  ['Mirela Tănase', 'mirela  TANASE', true, true],
  ['Ｍirela Tanase', 'Mirela Tanase', true, true],
  ['Tanase, Mirela', 'Mirela Tanase', false, true],
  ['Tanase, M.', 'Mirela Tanase', false, false],
  ['青木　遥', '青木 遥', true, true],
  ['青木遥', '青木 遥', false, false],
  ['Jonas Brandt', 'Jonas Brand', false, false],
])('%s and %s: the same %s, perhaps the same %s', (one, other, same, perhaps) => {
  expect(nameKey(one) === nameKey(other)).toBe(same);
  expect(looseNameKey(one) === looseNameKey(other)).toBe(perhaps);
});
