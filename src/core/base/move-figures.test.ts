import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Move } from '../game/move';
import { RESULTS } from '../game/result';
import type { Side } from '../game/ruleset';
import { TIME_CLASSES } from '../game/time-class';
import { FactColumns, suits, type BaseFilter, type BaseGame } from './facts';
import {
  expectedShare,
  figuresOf,
  tallyOf,
  usualScore,
  type Met,
  type MoveFigures,
} from './move-figures';

const maybe = <T>(values: fc.Arbitrary<T>): fc.Arbitrary<T | null> => fc.option(values);
const rating = maybe(fc.integer({ min: 1400, max: 1410 }));
const player = maybe(fc.nat(2));
const game: fc.Arbitrary<BaseGame> = fc.record({
  result: fc.constantFrom(...RESULTS),
  ratings: fc.tuple(rating, rating),
  players: fc.tuple(player, player),
  year: maybe(fc.integer({ min: 2000, max: 2005 })),
  timeClass: maybe(fc.constantFrom(...TIME_CLASSES)),
  rated: maybe(fc.boolean()),
  isSetUp: fc.boolean(),
});
const span = (from: number, to: number) =>
  fc
    .tuple(fc.integer({ min: from, max: to }), fc.integer({ min: from, max: to }))
    .map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const);
const filter: fc.Arbitrary<BaseFilter> = fc.record(
  {
    rating: fc.oneof(span(1399, 1411), fc.constant([0, 9999] as const)),
    years: fc.oneof(span(1999, 2006), fc.constant([0, 9999] as const)),
    timeClass: fc.constantFrom(...TIME_CLASSES),
    rated: fc.boolean(),
    result: fc.constantFrom(...RESULTS),
    players: fc.array(fc.nat(2), { maxLength: 2 }),
    side: fc.constantFrom<Side>(0, 1),
    fromStart: fc.boolean(),
  },
  { requiredKeys: [] },
);

const columnsOf = (games: readonly BaseGame[]): FactColumns => {
  const facts = new FactColumns(games.length);
  games.forEach((one, number) => facts.set(number, one));
  return facts;
};

const moveFigures = (facts: FactColumns, met: readonly Met[]): MoveFigures[] =>
  figuresOf(met.map((one) => tallyOf(facts, one)));

const BARE: BaseGame = {
  result: '1-0',
  ratings: [null, null],
  players: [null, null],
  year: null,
  timeClass: null,
  rated: null,
  isSetUp: false,
};

/** The same question asked of a game itself. */
function isMeant(one: BaseGame, asked: BaseFilter, toMove: Side): boolean {
  const within = (value: number | null, ends: readonly [number, number] | undefined): boolean =>
    !ends || (value !== null && value >= ends[0] && value <= ends[1]);
  const sides = asked.side === undefined ? [0, 1] : [asked.side];
  return (
    within(one.ratings[toMove], asked.rating) &&
    within(one.year, asked.years) &&
    (asked.timeClass === undefined || one.timeClass === asked.timeClass) &&
    (asked.rated === undefined || one.rated === asked.rated) &&
    (!asked.fromStart || !one.isSetUp) &&
    (asked.result === undefined || one.result === asked.result) &&
    (asked.players === undefined ||
      sides.some((side) => asked.players!.some((player) => one.players[side as Side] === player)))
  );
}

const mean = (values: readonly number[]): number | null =>
  values.length === 0 ? null : values.reduce((sum, value) => sum + value, 0) / values.length;

/** What one side got of a game, of 1. */
const got = ({ result }: BaseGame, side: Side): number =>
  result === '1/2-1/2' ? 0.5 : (result === '1-0') === (side === 0) ? 1 : 0;

/** The rating of which a score is expected against opponents of a mean rating, found by trying. */
function performance(opponents: number, share: number): number {
  let [low, high] = [-800, 800];
  for (let step = 0; step < 60; step++) {
    const middle = (low + high) / 2;
    if (expectedShare(middle) < share) low = middle;
    else high = middle;
  }
  return opponents + (low + high) / 2;
}

describe('figures of the moves at a position', () => {
  it('are those that looking at each game gives, whatever is asked', () => {
    fc.assert(
      fc.property(
        fc.array(game, { minLength: 1, maxLength: 30 }),
        filter,
        fc.constantFrom<Side>(0, 1),
        fc.func(fc.nat(2)),
        (games, asked, toMove, moveOf) => {
          const facts = columnsOf(games);
          const played = [0, 1, 2].map((move) => ({
            move: move as Move,
            games: [...games.keys()].filter((number) => moveOf(number) === move),
          }));
          const found = moveFigures(facts, [
            { continuations: played, toMove: toMove, isWanted: suits(facts, asked, toMove) },
          ]);
          const expected = played.flatMap(({ move, games: numbers }) => {
            const meant = numbers
              .map((number) => games[number]!)
              .filter((one) => isMeant(one, asked, toMove));
            if (meant.length === 0) return [];
            const ended = meant.filter(({ result }) => result !== '*');
            const known = ended.filter(({ ratings }) => !ratings.includes(null));
            const years = meant.flatMap(({ year }) => year ?? []);
            const above = ({ ratings }: BaseGame) => ratings[toMove]! - ratings[1 - toMove]!;
            const count = (points: number) =>
              ended.filter((one) => got(one, toMove) === points).length;
            return [
              {
                move,
                games: meant.length,
                score: { won: count(1), drawn: count(0.5), lost: count(0) },
                rating: mean(meant.flatMap(({ ratings }) => ratings[toMove] ?? [])),
                expected:
                  known.length === 0
                    ? null
                    : {
                        share: expect.closeTo(
                          100 * mean(known.map((one) => expectedShare(above(one))))!,
                          9,
                        ) as number,
                        got: expect.closeTo(
                          100 * mean(known.map((one) => got(one, toMove)))!,
                          9,
                        ) as number,
                        games: known.length,
                        performance: expect.closeTo(
                          performance(
                            mean(known.map(({ ratings }) => ratings[1 - toMove]!))!,
                            mean(known.map((one) => got(one, toMove)))!,
                          ),
                          6,
                        ) as number,
                      },
                years: years.length === 0 ? null : [Math.min(...years), Math.max(...years)],
                trend: expect.toBeOneOf([null, 'coming', 'going']) as null,
              },
            ];
          });
          expected.sort((a, b) => b.games - a.games || a.move - b.move);
          expect(found).toEqual(expected);
        },
      ),
    );
  });

  it('leave out games that have left the base', () => {
    const one: BaseGame = { ...BARE, ratings: [1500, null] };
    const facts = columnsOf([one, one]);
    facts.gone[0] = 1;
    const played = [
      { move: 5 as Move, games: [0, 1] },
      { move: null, games: [0] },
    ];
    expect(
      moveFigures(facts, [{ continuations: played, toMove: 0, isWanted: suits(facts, {}, 0) }]),
    ).toMatchObject([
      { move: 5, games: 1, score: { won: 1, drawn: 0, lost: 0 }, rating: 1500, expected: null },
    ]);
  });
});

describe('whether a move is coming or going', () => {
  const inYears = (years: readonly number[]) => years.map((year) => ({ ...BARE, year }));
  const trends = (own: readonly number[], others: readonly number[]) => {
    const facts = columnsOf(inYears([...own, ...others]));
    const numbers = [...Array(facts.size).keys()];
    const played = [
      { move: 1 as Move, games: numbers.slice(0, own.length) },
      { move: 2 as Move, games: numbers.slice(own.length) },
    ];
    const found = moveFigures(facts, [
      { continuations: played, toMove: 0, isWanted: suits(facts, {}, 0) },
    ]);
    return [1, 2].map((move) => found.find((one) => one.move === move)!.trend);
  };
  const spread = (from: number, count: number) =>
    Array.from({ length: count }, (_, index) => from + (index % 5));

  it('is told where the years differ by more than chance', () => {
    expect(trends(spread(2010, 10), spread(2000, 10))).toEqual(['coming', 'going']);
    // means of 2002 and 2003, of ten games each: the difference is 1.96 standard errors at 2003.3
    expect(trends(spread(2001, 10), spread(2000, 10))).toEqual([null, null]);
    expect(trends(spread(2001, 100), spread(2000, 100))).toEqual(['coming', 'going']);
  });

  it('is not told of few games, nor of games of the same years', () => {
    expect(trends(spread(2010, 9), spread(2000, 50))).toEqual([null, null]);
    expect(trends(spread(2010, 50), spread(2000, 9))).toEqual([null, null]);
    expect(trends(spread(2000, 50), spread(2000, 50))).toEqual([null, null]);
  });
});

it('what all games came to for a side leaves out those without a result, and those not asked for', () => {
  const facts = columnsOf(
    (['1-0', '1-0', '0-1', '1/2-1/2', '*'] as const).map((result) => ({ ...BARE, result })),
  );
  expect(usualScore(facts, 0, () => true)).toEqual({ won: 2, drawn: 1, lost: 1 });
  expect(usualScore(facts, 1, () => true)).toEqual({ won: 1, drawn: 1, lost: 2 });
  expect(usualScore(facts, 1, (one) => one > 1)).toEqual({ won: 1, drawn: 1, lost: 0 });
});

it('facts are stored and read again, behind others', () => {
  fc.assert(
    fc.property(fc.array(game, { maxLength: 8 }), fc.nat(3), (games, from) => {
      const read = new FactColumns(from + games.length);
      read.unpack(from, columnsOf(games).pack());
      const wanted = columnsOf([...Array<BaseGame>(from).fill(BARE), ...games]);
      for (let one = 0; one < from; one++) read.set(one, BARE);
      expect(read).toEqual(wanted);
    }),
  );
});

it('facts of a base that has grown are those that it had, with the games that have left, and those that came', () => {
  fc.assert(
    fc.property(fc.array(fc.array(game)), fc.array(game), (parts, games) => {
      let facts = columnsOf(games);
      facts.gone.fill(1);
      const all = [...games];
      for (const some of parts) {
        facts = new FactColumns(all.length + some.length, facts);
        facts.unpack(all.length, columnsOf(some).pack());
        all.push(...some);
      }
      expect(facts.size).toBe(all.length);
      expect(facts.pack()).toEqual(columnsOf(all).pack());
      expect([...facts.gone.subarray(0, all.length)]).toEqual(
        all.map((_, at) => (at < games.length ? 1 : 0)),
      );
    }),
  );
});

it('facts of a base that grows by a little are not copied', () => {
  const grown = new FactColumns(1001, new FactColumns(1000));
  expect(new FactColumns(1125, grown).years).toBe(grown.years);
  expect(new FactColumns(1127, grown).years).not.toBe(grown.years);
});

it.each([
  [0, 800],
  [1, 800],
])('who scores %i of 1 performs no more than %i points from the opponents', (share, most) => {
  const facts = columnsOf([
    { ...BARE, result: share === 1 ? '1-0' : '0-1', ratings: [1500, 1600] },
  ]);
  const [found] = moveFigures(facts, [
    { continuations: [{ move: null, games: [0] }], toMove: 0, isWanted: () => true },
  ]);
  expect(found!.expected!.performance).toBe(share === 1 ? 1600 + most : 1600 - most);
});

it.each([
  [0, 0.5],
  [400, 10 / 11],
  [-400, 1 / 11],
])('%i points above the opponent, %f is expected', (above, share) => {
  expect(expectedShare(above)).toBeCloseTo(share, 12);
});
