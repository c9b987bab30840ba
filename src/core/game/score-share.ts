import type { Result } from './result';
import type { Side } from './ruleset';

/** What a number of games came to for one side. */
export interface Score {
  won: number;
  drawn: number;
  lost: number;
}

export const NO_SCORE: Score = { won: 0, drawn: 0, lost: 0 };

/** What a result is for a side; null where a game has none. */
export function outcomeFor(result: Result, side: Side): keyof Score | null {
  if (result === '*') return null;
  if (result === '1/2-1/2') return 'drawn';
  return (result === '1-0') === (side === 0) ? 'won' : 'lost';
}

/** What some games came to; those without a result are left out. */
export function scoreOf(games: readonly { outcome: keyof Score | null }[]): Score {
  const score = { ...NO_SCORE };
  for (const { outcome } of games) if (outcome) score[outcome]++;
  return score;
}

export const plusScore = (one: Score, other: Score): Score => ({
  won: one.won + other.won,
  drawn: one.drawn + other.drawn,
  lost: one.lost + other.lost,
});

export const gamesIn = ({ won, drawn, lost }: Score): number => won + drawn + lost;

/** Points of 100; null without games. */
export function shareOf(score: Score): number | null {
  const games = gamesIn(score);
  return games === 0 ? null : (100 * (score.won + score.drawn / 2)) / games;
}

/** From so few games nothing is concluded. */
export const FEW_GAMES = 10;

/** Standard errors about a mean within which, by a normal distribution, 95 % lie. */
export const Z95 = 1.96;

/**
 * The share of points, of 100, that is behind a score with 95 % likelihood (Wilson's interval of a proportion, 1927; a game counts as
 * one trial, which is on the safe side where there are draws). Null without games.
 */
export function shareInterval(score: Score): [from: number, to: number] | null {
  const games = gamesIn(score);
  const share = shareOf(score);
  if (share === null) return null;
  const p = share / 100;
  const centre = p + Z95 ** 2 / (2 * games);
  const reach = Z95 * Math.sqrt((p * (1 - p)) / games + Z95 ** 2 / (4 * games ** 2));
  const whole = 1 + Z95 ** 2 / games;
  return [(100 * (centre - reach)) / whole, (100 * (centre + reach)) / whole];
}
