import { THRESHOLDS } from './verdict';

/** Accuracy of a side over the moves that left it a choice. */
export interface Accuracy {
  /** 0–100; null without a single such move. */
  value: number | null;
  /** How many moves it rests on. */
  moves: number;
  /** Mean chance points lost a move. */
  meanLoss: number | null;
}

/** A move counts 100 when it loses nothing, and half of what it would for each mistake's worth that it loses. */
export const moveAccuracy = (loss: number): number =>
  100 * 2 ** (-Math.max(0, loss) / THRESHOLDS.mistake);

/** The mean over the moves' accuracies. `losses`: of moves with at least two legal alternatives. */
export function accuracyOf(losses: readonly number[]): Accuracy {
  if (losses.length === 0) return { value: null, moves: 0, meanLoss: null };
  const mean = (values: readonly number[]): number =>
    values.reduce((sum, value) => sum + value, 0) / values.length;
  return { value: mean(losses.map(moveAccuracy)), moves: losses.length, meanLoss: mean(losses) };
}
