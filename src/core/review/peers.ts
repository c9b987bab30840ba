import { FEW_GAMES, Z95 } from '../game/score-share';

/** The mean of accuracies of as many games. */
export interface MeanAccuracy {
  mean: number;
  /** Its standard error, which one game alone has none of. */
  error: number | null;
  games: number;
}

/** Null of none. */
export function meanAccuracy(accuracies: readonly number[]): MeanAccuracy | null {
  const games = accuracies.length;
  if (games === 0) return null;
  const mean = accuracies.reduce((sum, value) => sum + value, 0) / games;
  const squares = accuracies.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return { mean, error: games > 1 ? Math.sqrt(squares / (games - 1) / games) : null, games };
}

/** Whether somebody is more accurate, or less, than others by more than chance explains (Welch's test of two means). */
export function accuracyDiffers(own: MeanAccuracy, theirs: MeanAccuracy): 'more' | 'less' | null {
  if (Math.min(own.games, theirs.games) < FEW_GAMES) return null;
  const difference = own.mean - theirs.mean;
  if (Math.abs(difference) <= Z95 * Math.hypot(own.error!, theirs.error!)) return null;
  return difference > 0 ? 'more' : 'less';
}

/** Accuracy points of a stretch of {@link shares}. */
export const STRETCH = 5;

/** Of some games, the share (percent) whose accuracy lies in each stretch from 0 to 100, its upper end outside but for the last. */
export function shares(accuracies: readonly number[]): number[] {
  const counts = Array.from({ length: 100 / STRETCH }, () => 0);
  for (const value of accuracies)
    counts[Math.min(counts.length - 1, Math.floor(value / STRETCH))]!++;
  return counts.map((count) => (100 * count) / accuracies.length);
}
