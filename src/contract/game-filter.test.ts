import { describe, expect, it } from 'vitest';
import {
  CHOICE_NAMES,
  CHOICES,
  filterQuery,
  gameFilterSchema,
  RANGES,
  readFilter,
  readSpan,
  spanText,
  without,
} from './game-filter';
import {
  COLUMNS,
  gamesAsTheirs,
  givenColumns,
  givenFilter,
  givenOrder,
  isOwnSide,
  LEFT_COLUMNS,
  libraryHref,
  orderText,
  readOrder,
  USUAL_ORDER,
} from './library';

describe('a filter', () => {
  it.each([
    [{}, ''],
    [{ kind: 'shogi', text: 'a b&c' }, 'kind=shogi&text=a+b%26c'],
    [{ player: 3, against: 4, collection: 5 }, 'player=3&against=4&collection=5'],
    [{ player: 3, viewpoint: 'player' }, 'player=3&viewpoint=player'],
    [{ label: 'to show', deleted: 'yes' }, 'label=to+show&deleted=yes'],
    [{ deleted: '2026-03-01T10:00:00.125Z' }, 'deleted=2026-03-01T10%3A00%3A00.125Z'],
    [{ date: '2024-05..2025' }, 'date=2024-05..2025'],
    [{ outcome: 'won,lost', accuracy: '..60.5' }, 'outcome=won%2Clost&accuracy=..60.5'],
  ] as const)('%j goes out and comes in', (filter, address) => {
    expect(filterQuery(filter).toString()).toBe(address);
    expect(readFilter(Object.fromEntries(new URLSearchParams(address)))).toEqual(filter);
  });

  it.each([
    { kind: 'go' },
    { kind: '', text: '' },
    { text: 'x'.repeat(101) },
    { text: ['a', 'b'] },
    { viewpoint: 'owner' },
    { player: '0' },
    { player: '-1', against: '1.5' },
    { collection: 'x', player: '' },
    { player: '99999999999999999999' },
    { label: 'x'.repeat(41) },
    { label: '  ' },
    { deleted: 'no' },
    { deleted: 'yesterday' },
    { date: '24..25' },
    { date: '2024' },
    { date: '2024..2025..2026' },
    { outcome: 'won,' },
    { outcome: 'won;lost' },
    { accuracy: '60' },
    { accuracy: 'a..b' },
    { accuracy: '1e3..' },
    { accuracy: '..100000000' },
    { accuracy: "0..1'" },
  ])('is not understood from %j', (query) => {
    expect(filterQuery(readFilter(query)).toString()).toBe('');
  });

  it('may name every value of a choice, and ends of every range', () => {
    for (const name of CHOICE_NAMES)
      expect(readFilter({ [name]: CHOICES[name].join(',') })).toHaveProperty(name);
    for (const name of RANGES)
      for (const span of ['0..99999', '1.25..', '..-3'])
        expect(gameFilterSchema.safeParse({ [name]: span }).success).toBe(true);
  });

  it.each([
    ['3..4', '3', '4'],
    ['..4', null, '4'],
    ['3..', '3', null],
  ])('has the span %s', (text, from, to) => {
    expect(readSpan(text)).toEqual({ from, to });
    expect(spanText({ from, to })).toBe(text);
  });

  it('has no span that is open at both ends', () => {
    expect(spanText({ from: null, to: null })).toBeUndefined();
    expect(readSpan('..')).toEqual({ from: null, to: null });
  });
});

describe('an order', () => {
  it('goes out and comes in, by every column and either way', () => {
    for (const by of COLUMNS)
      for (const way of ['up', 'down'] as const)
        expect(readOrder(orderText({ by, way }))).toEqual({ by, way });
  });

  it.each([undefined, '', 'openings', '--date', ['date']])('is the usual one for %j', (text) => {
    expect(readOrder(text)).toEqual(USUAL_ORDER);
  });
});

it('a part of a filter is let go of with what would mean nothing without it', () => {
  const filter = { player: 3, playing: 'first', viewpoint: 'player', kind: 'chess' } as const;
  expect(without(filter, 'player')).toEqual({ kind: 'chess' });
  expect(without(filter, 'playing')).toEqual({ player: 3, viewpoint: 'player', kind: 'chess' });
  expect(without(filter, 'kind')).toEqual({ player: 3, playing: 'first', viewpoint: 'player' });
});

describe('somebody else’s games', () => {
  const order = { by: 'accuracy', way: 'up' } as const;

  it('are found by what is not their owner’s own business, and in what was given alone', () => {
    const wanted = { text: 'a', label: 'weak', opened: 'no', deleted: 'yes', collection: 9 };
    expect(filterQuery(givenFilter({ ...wanted, outcome: 'won' } as const, 5)).toString()).toBe(
      'text=a&collection=5&outcome=won',
    );
    expect(filterQuery(givenFilter(wanted as object, null)).toString()).toBe('text=a');
    for (const by of ['labels', 'lastOpened'] as const)
      expect(givenOrder({ by, way: 'up' })).toEqual(USUAL_ORDER);
    expect(givenOrder(order)).toEqual(order);
    expect(givenColumns([...COLUMNS, ...LEFT_COLUMNS])).toEqual(
      COLUMNS.filter((column) => column !== 'labels' && column !== 'lastOpened'),
    );
  });

  it('have an address of their own, and are nobody’s that looks', () => {
    expect(libraryHref({}, undefined, 7)).toBe('/given/7');
    expect(libraryHref({ text: 'a' }, order, 7)).toBe('/given/7?text=a&sort=accuracy');
    const own = { filter: {}, order, grant: null };
    expect(isOwnSide(own)).toBe(true);
    expect(isOwnSide({ ...own, grant: 7 })).toBe(false);
    expect(isOwnSide({ ...own, filter: gamesAsTheirs({ id: 3, isSelf: false }) })).toBe(false);
    expect(isOwnSide({ ...own, filter: gamesAsTheirs({ id: 3, isSelf: true }) })).toBe(true);
  });
});
