import { FEW_GAMES, gamesIn, shareOf, Z95, type Score } from '../game/score-share';

/** How often something happened, of so many times that it might have. */
export interface Frequency {
  count: number;
  of: number;
}

/** Times that each outcome must be expected for the normal distribution to serve (Cochran 1954). */
const LEAST_EXPECTED = 5;

/** Whether something is more, or less, frequent here than there by more than chance explains (test of two proportions, pooled). */
export function frequencyDiffers(here: Frequency, there: Frequency): 'more' | 'less' | null {
  const pooled = (here.count + there.count) / (here.of + there.of);
  const rarest = Math.min(here.of, there.of) * Math.min(pooled, 1 - pooled);
  if (!(rarest >= LEAST_EXPECTED)) return null;
  const error = Math.sqrt(pooled * (1 - pooled) * (1 / here.of + 1 / there.of));
  const difference = here.count / here.of - there.count / there.of;
  if (Math.abs(difference) <= Z95 * error) return null;
  return difference > 0 ? 'more' : 'less';
}

/** Whether a score is higher, or lower, than another by more than chance explains (difference of means, with the variance of each). */
export function scoreDiffers(here: Score, there: Score): 'more' | 'less' | null {
  if (Math.min(gamesIn(here), gamesIn(there)) < FEW_GAMES) return null;
  const difference = shareOf(here)! - shareOf(there)!;
  const error = Math.sqrt(errorOf(here) + errorOf(there));
  if (Math.abs(difference) <= Z95 * error) return null;
  return difference > 0 ? 'more' : 'less';
}

/** The square of the standard error of a share of points, of 100. */
function errorOf(score: Score): number {
  const games = gamesIn(score);
  const mean = shareOf(score)! / 100;
  const squares =
    score.won * (1 - mean) ** 2 + score.drawn * (0.5 - mean) ** 2 + score.lost * mean ** 2;
  return (10_000 * squares) / games / (games - 1);
}
