import type { Move } from '../game/move';
import { RESULTS } from '../game/result';
import { gamesIn, outcomeFor, plusScore, shareOf, Z95, type Score } from '../game/score-share';
import { otherSide, type Side } from '../game/ruleset';
import type { Continuation } from './block';
import { countGames } from './count-games';
import type { FactColumns } from './facts';

/** What the games of a base that went on with a move came to. */
export interface MoveFigures {
  /** null: they ended there. */
  move: Move | null;
  games: number;
  /** Of the side to move; games without a result are left out. */
  score: Score;
  /** Mean rating of the side to move; null where none is known. */
  rating: number | null;
  /** What the side to move achieved of those games whose ratings are both known; null without any. */
  expected: Expected | null;
  /** Years of the first and the last game; null where none is known. */
  years: readonly [first: number, last: number] | null;
  /** Whether it is played later, or earlier, than other moves here, by more than chance explains. */
  trend: 'coming' | 'going' | null;
}

export interface Expected {
  games: number;
  /** Points of 100 that the ratings made one expect (Elo's formula), and that there were. */
  share: number;
  got: number;
  /** The rating of which that score would be expected against the same opponents, no more than {@link MOST_ABOVE} from theirs. */
  performance: number;
}

/** What is expected of a player, of 1, who is rated so many points above the opponent (Elo 1978: logistic with 400 points a factor of ten). */
export const expectedShare = (above: number): number => 1 / (1 + 10 ** (-above / 400));

/** Rating points beyond which a performance is not told: a side that won or lost everything has none (FIDE Rating Regulations, 8.1). */
export const MOST_ABOVE = 800;

/** By how much a side would have to be rated above its opponents to expect a share of 1; the inverse of {@link expectedShare}. */
function aboveFor(share: number): number {
  if (share <= 0) return -MOST_ABOVE;
  if (share >= 1) return MOST_ABOVE;
  const above = 400 * Math.log10(share / (1 - share));
  return Math.max(-MOST_ABOVE, Math.min(MOST_ABOVE, above));
}

/** Sums of the years of some games. */
interface Years {
  games: number;
  sum: number;
  squares: number;
  first: number;
  last: number;
}

/** What was played at a position with one of the sides to move. */
export interface Met {
  continuations: readonly Continuation[];
  toMove: Side;
  isWanted(game: number): boolean;
}

/** What the games of a stretch that met a position, and suit, came to; those of several are put together by {@link figuresOf}. */
export interface Tally {
  /** Each once, however often it came by. */
  games: number;
  moves: readonly { move: Move | null; sums: Sums }[];
}

export const tallyOf = (facts: FactColumns, met: Met): Tally => ({
  games: countGames(met.continuations, facts.size, met.isWanted),
  moves: met.continuations.map(({ move, games }) => ({ move, sums: sumsOf(facts, games, met) })),
});

/** The figures of what was played at a position; the move played most often first. */
export function figuresOf(tallies: readonly Tally[]): MoveFigures[] {
  const byMove = new Map<Move | null, Sums>();
  for (const { moves } of tallies)
    for (const { move, sums } of moves) {
      const before = byMove.get(move);
      byMove.set(move, before ? together(before, sums) : sums);
    }
  const counted = Array.from(byMove, ([move, sums]) => ({ move, ...countOf(sums) }))
    .filter(({ games }) => games > 0)
    .sort((a, b) => b.games - a.games || (a.move ?? -1) - (b.move ?? -1));
  const all = counted.reduce((sum, { years }) => plus(sum, years, 1), NO_YEARS);
  return counted.map(({ years, ...figures }) => ({
    ...figures,
    years: years.games === 0 ? null : [years.first, years.last],
    trend: trendOf(years, plus(all, years, -1)),
  }));
}

/** What all games of a stretch of a base came to for a side. @param to without it */
export function usualScore(
  facts: FactColumns,
  side: Side,
  isWanted: (game: number) => boolean,
  [from, to]: readonly [from: number, to: number] = [0, facts.size],
): Score {
  const counts = new Int32Array(UNDECIDED + 1);
  const places = PLACES[side];
  for (let game = from; game < to; game++)
    if (isWanted(game)) counts[places[facts.results[game]!]!]!++;
  return scoreIn(counts);
}

const NO_YEARS: Years = { games: 0, sum: 0, squares: 0, first: Infinity, last: -Infinity };

const plus = (a: Years, b: Years, times: 1 | -1): Years => ({
  ...a,
  games: a.games + times * b.games,
  sum: a.sum + times * b.sum,
  squares: a.squares + times * b.squares,
});

/** Games of which years must be known for a trend. */
const FEW = 10;

/** Whether the mean years of two groups of games differ by more than chance explains (Welch 1947, with the normal distribution). */
function trendOf(own: Years, others: Years): MoveFigures['trend'] {
  if (own.games < FEW || others.games < FEW) return null;
  const mean = ({ sum, games }: Years): number => sum / games;
  const error = ({ sum, squares, games }: Years): number =>
    Math.max(0, squares - sum ** 2 / games) / (games - 1) / games;
  const difference = mean(own) - mean(others);
  if (Math.abs(difference) <= Z95 * Math.sqrt(error(own) + error(others))) return null;
  return difference > 0 ? 'coming' : 'going';
}

function countOf({
  games,
  score,
  rated,
  ratings,
  ratedGames,
  expected,
  opponents,
  years,
}: Sums): Omit<MoveFigures, 'move' | 'years' | 'trend'> & { years: Years } {
  const got = shareOf(rated);
  const both = gamesIn(rated);
  return {
    games,
    score,
    rating: ratedGames > 0 ? ratings / ratedGames : null,
    expected:
      got === null
        ? null
        : {
            games: both,
            share: (100 * expected) / both,
            got,
            performance: opponents / both + aboveFor(got / 100),
          },
    years,
  };
}

/** Sums over games that went on with a move. */
interface Sums {
  games: number;
  score: Score;
  /** Of the games whose ratings are both known, as {@link expected} and {@link opponents}. */
  rated: Score;
  expected: number;
  opponents: number;
  ratings: number;
  ratedGames: number;
  years: Years;
}

/** A base's first positions have all its games: in a function of its own, in numbers not taken from a list, this is compiled to the fastest. */
function sumsOf(
  facts: FactColumns,
  games: readonly number[],
  { toMove, isWanted }: Pick<Met, 'toMove' | 'isWanted'>,
): Sums {
  const { results, years } = facts;
  const own = facts.ratings[toMove];
  const others = facts.ratings[otherSide(toMove)];
  const places = PLACES[toMove];
  const counts = new Int32Array(UNDECIDED + 1);
  const ratedCounts = new Int32Array(UNDECIDED + 1);
  let ratings = 0;
  let ratedGames = 0;
  let expected = 0;
  let opponents = 0;
  let dated = 0;
  let sum = 0;
  let squares = 0;
  let first = Infinity;
  let last = -Infinity;
  for (const game of games) {
    if (!isWanted(game)) continue;
    const place = places[results[game]!]!;
    counts[place]!++;
    const rating = own[game]!;
    const other = others[game]!;
    const year = years[game]!;
    if (rating > 0) {
      ratings += rating;
      ratedGames++;
    }
    if (place !== UNDECIDED && rating > 0 && other > 0) {
      expected += EXPECTED[rating - other + MOST_APART] ?? expectedShare(rating - other);
      opponents += other;
      ratedCounts[place]!++;
    }
    if (year > 0) {
      dated++;
      sum += year;
      squares += year * year;
      if (year < first) first = year;
      if (year > last) last = year;
    }
  }
  return {
    games: counts.reduce((all, count) => all + count, 0),
    score: scoreIn(counts),
    rated: scoreIn(ratedCounts),
    expected,
    opponents,
    ratings,
    ratedGames,
    years: { games: dated, sum, squares, first, last },
  };
}

const together = (a: Sums, b: Sums): Sums => ({
  games: a.games + b.games,
  score: plusScore(a.score, b.score),
  rated: plusScore(a.rated, b.rated),
  expected: a.expected + b.expected,
  opponents: a.opponents + b.opponents,
  ratings: a.ratings + b.ratings,
  ratedGames: a.ratedGames + b.ratedGames,
  years: {
    ...plus(a.years, b.years, 1),
    first: Math.min(a.years.first, b.years.first),
    last: Math.max(a.years.last, b.years.last),
  },
});

const OUTCOMES = ['won', 'drawn', 'lost'] as const satisfies readonly (keyof Score)[];
/** The place behind those: of games without a result. */
const UNDECIDED = OUTCOMES.length;

/** What each of the results is to a side, as a place among the outcomes. */
const placesFor = (side: Side): Uint8Array =>
  Uint8Array.from(RESULTS, (result) => {
    const outcome = outcomeFor(result, side);
    return outcome === null ? UNDECIDED : OUTCOMES.indexOf(outcome);
  });
const PLACES = [placesFor(0), placesFor(1)] as const;

const scoreIn = ([won, drawn, lost]: Int32Array): Score => ({
  won: won!,
  drawn: drawn!,
  lost: lost!,
});

/** {@link expectedShare} of all differences of ratings that come up. */
const MOST_APART = 2000;
const EXPECTED = Float64Array.from({ length: 2 * MOST_APART + 1 }, (_, index) =>
  expectedShare(index - MOST_APART),
);
