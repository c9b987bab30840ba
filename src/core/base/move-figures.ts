import type { Move } from '../game/move';
import { gamesIn, NO_SCORE, outcomeFor, shareOf, type Score } from '../game/score-share';
import type { Side } from '../game/ruleset';
import type { Continuation } from './block';
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
  /**
   * Points of 100 that the ratings made one expect of the side to move, and that it got, of the games with a result whose ratings are
   * both known (Elo's formula); null without any.
   */
  expected: { share: number; got: number; games: number } | null;
  /** Years of the first and the last game; null where none is known. */
  years: readonly [first: number, last: number] | null;
}

/** What is expected of a player, of 1, who is rated so many points above the opponent (Elo 1978: logistic with 400 points a factor of ten). */
export const expectedShare = (above: number): number => 1 / (1 + 10 ** (-above / 400));

/** The figures of what was played at a position, of those games that suit; the move played most often first. */
export function moveFigures(
  facts: FactColumns,
  continuations: readonly Continuation[],
  toMove: Side,
  isWanted: (game: number) => boolean,
): MoveFigures[] {
  return continuations
    .map(({ move, games }) => ({ move, ...figuresOf(facts, games, toMove, isWanted) }))
    .filter(({ games }) => games > 0)
    .sort((a, b) => b.games - a.games || (a.move ?? -1) - (b.move ?? -1));
}

function figuresOf(
  facts: FactColumns,
  wanted: readonly number[],
  toMove: Side,
  isWanted: (game: number) => boolean,
): Omit<MoveFigures, 'move'> {
  const [own, others] = [facts.ratings[toMove], facts.ratings[1 - toMove]!];
  const score = { ...NO_SCORE };
  let games = 0;
  const ratings = { sum: 0, games: 0 };
  /** Of the games whose ratings are both known. */
  const rated = { ...NO_SCORE };
  let expected = 0;
  let [first, last] = [Infinity, -Infinity];
  for (const game of wanted) {
    if (!isWanted(game)) continue;
    games++;
    const outcome = outcomeFor(facts.resultOf(game), toMove);
    if (outcome) score[outcome]++;
    const [rating, other, year] = [own[game]!, others[game]!, facts.years[game]!];
    if (rating > 0) {
      ratings.sum += rating;
      ratings.games++;
    }
    if (outcome && rating > 0 && other > 0) {
      expected += expectedShare(rating - other);
      rated[outcome]++;
    }
    if (year > 0) [first, last] = [Math.min(first, year), Math.max(last, year)];
  }
  const got = shareOf(rated);
  return {
    games,
    score,
    rating: ratings.games > 0 ? ratings.sum / ratings.games : null,
    expected:
      got === null
        ? null
        : { share: (100 * expected) / gamesIn(rated), got, games: gamesIn(rated) },
    years: last < first ? null : [first, last],
  };
}
