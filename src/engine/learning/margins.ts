/**
 * A search for better values by games alone, in all of them at once: simultaneous perturbation, after Spall, IEEE Transactions on Automatic
 * Control 37 (1992), with his exponents.
 */
export interface MarginSearch {
  /** Pairs of games so far. */
  pairs: number;
  /** Where each value began: its steps are a share of that. */
  from: Readonly<Record<string, number>>;
  /** Where it stands, in fractions of what can be set. */
  values: Readonly<Record<string, number>>;
}

/** A step at the beginning, as a share of where the value began; at least one. */
const STEP_SHARE = 0.2;
/** Of a step, what a pair that was won on both sides moves at the beginning. */
const RATE = 0.08;
const [STEP_FALL, RATE_FALL] = [0.101, 0.602];
/** Pairs that the rate falls slowly by in the beginning. */
const CALM = 1000;

export const beginSearch = (from: Readonly<Record<string, number>>): MarginSearch => ({
  pairs: 0,
  from,
  values: { ...from },
});

/** Two sets of values to be played against each other, and which way each was moved for the first of them. */
export interface Trial {
  ways: Readonly<Record<string, 1 | -1>>;
  plus: Readonly<Record<string, number>>;
  minus: Readonly<Record<string, number>>;
}

const stepOf = ({ pairs, from }: MarginSearch, name: string): number =>
  Math.max(1, Math.abs(from[name]!) * STEP_SHARE) / (pairs + 1) ** STEP_FALL;

export function drawTrial(search: MarginSearch, random: () => number): Trial {
  const names = Object.keys(search.values);
  const ways = Object.fromEntries(
    names.map((name) => [name, random() < 0.5 ? 1 : -1] as const),
  ) satisfies Trial['ways'];
  /** A fraction is up or down by chance, so that steps smaller than one are felt. */
  const moved = (sign: 1 | -1): Record<string, number> =>
    Object.fromEntries(
      names.map((name) => [
        name,
        Math.floor(search.values[name]! + sign * ways[name]! * stepOf(search, name) + random()),
      ]),
    );
  return { ways, plus: moved(1), minus: moved(-1) };
}

/** @param won of two games, what the first of a trial's sets scored less what the other did: −2 to 2 */
export function afterTrial(search: MarginSearch, { ways }: Trial, won: number): MarginSearch {
  const rate = RATE * ((CALM + 1) / (CALM + search.pairs + 1)) ** RATE_FALL;
  return {
    ...search,
    pairs: search.pairs + 1,
    values: Object.fromEntries(
      Object.entries(search.values).map(([name, value]) => [
        name,
        value + (rate * stepOf(search, name) * ways[name]! * won) / 2,
      ]),
    ),
  };
}
