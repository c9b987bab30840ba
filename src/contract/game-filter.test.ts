import { expect, it } from 'vitest';
import { filterQuery, readFilter } from './game-filter';

it.each([
  [{}, ''],
  [{ kind: 'shogi', text: 'a b&c' }, 'kind=shogi&text=a+b%26c'],
  [{ player: 3, against: 4, collection: 5 }, 'player=3&against=4&collection=5'],
] as const)('%j goes out and comes in', (filter, address) => {
  expect(filterQuery(filter).toString()).toBe(address);
  expect(readFilter(Object.fromEntries(new URLSearchParams(address)))).toEqual(filter);
});

it.each([
  { kind: 'go' },
  { kind: '', text: '' },
  { text: 'x'.repeat(101) },
  { text: ['a', 'b'] },
  { player: '0' },
  { player: '-1', against: '1.5' },
  { collection: 'x', player: '' },
  { player: '99999999999999999999' },
])('of %j nothing is understood', (query) => {
  expect(filterQuery(readFilter(query)).toString()).toBe('');
});
