/** Results of pairs of games from one opening with colours changed, by the first player's points: 0, 0.5, 1, 1.5, 2. */
export type PairCounts = [number, number, number, number, number];

export interface MatchFigures {
  /** Share of the points, 0–1, and its 95 % interval. */
  score: number;
  low: number;
  high: number;
  /** Elo difference that the score stands for, and of the interval's ends. */
  elo: number;
  eloLow: number;
  eloHigh: number;
}

const Z95 = 1.96;

/** Elo difference at which the logistic model expects a score; infinite at 0 and 1. */
export const eloOf = (score: number): number =>
  score <= 0 ? -Infinity : score >= 1 ? Infinity : -400 * Math.log10(1 / score - 1);

const scoreOf = (elo: number): number => 1 / (1 + 10 ** (-elo / 400));

/** Mean and variance of the score of a pair, each 0–1. */
function moments(pairs: PairCounts): { count: number; mean: number; variance: number } {
  const count = pairs.reduce((sum, value) => sum + value, 0);
  const mean = pairs.reduce((sum, value, index) => sum + (value * index) / 4, 0) / count;
  const variance =
    pairs.reduce((sum, value, index) => sum + value * (index / 4 - mean) ** 2, 0) / count;
  return { count, mean, variance };
}

/**
 * A few pairs may happen to have come out alike; so a variance is taken as if so many more pairs had been seen with the
 * variance of two decisive games that have nothing to do with each other.
 */
const UNSEEN = 3;

const cautious = (variance: number, count: number, ofDecisive: number): number =>
  (variance * count + UNSEEN * ofDecisive) / (count + UNSEEN);

/** Wilson's interval for as many independent decisive games as the pairs are worth by their spread. */
export function figuresOf(pairs: PairCounts): MatchFigures {
  const { count, mean, variance } = moments(pairs);
  const worth = mean * (1 - mean);
  const effective = worth > 0 ? (worth / cautious(variance, count, worth / 2)) * count : 2 * count;
  const z2 = Z95 ** 2;
  const centre = (mean + z2 / (2 * effective)) / (1 + z2 / effective);
  const half =
    (Z95 / (1 + z2 / effective)) *
    Math.sqrt((mean * (1 - mean)) / effective + z2 / (4 * effective ** 2));
  const low = Math.max(0, centre - half);
  const high = Math.min(1, centre + half);
  return {
    score: mean,
    low,
    high,
    elo: eloOf(mean),
    eloLow: eloOf(low),
    eloHigh: eloOf(high),
  };
}

/**
 * Log-likelihood ratio of the hypotheses "elo1 better" and "elo0 better", in the normal approximation for the score
 * of pairs (generalised sequential probability ratio test).
 */
export function logLikelihoodRatio(pairs: PairCounts, elo0: number, elo1: number): number {
  const { count, mean, variance } = moments(pairs);
  const low = scoreOf(elo0);
  const high = scoreOf(elo1);
  return (count * (high - low) * (2 * mean - low - high)) / (2 * cautious(variance, count, 1 / 8));
}

/** Where a sequential test with 5 % risk either way stops. */
export const SPRT_BOUND = Math.log(0.95 / 0.05);
