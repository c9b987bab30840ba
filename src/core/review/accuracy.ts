import { THRESHOLDS } from './verdict';

interface RatedMove {
  /** Chance points. */
  loss: number;
  isUnsettled: boolean;
}

/** Accuracy of a side over the moves that left it a choice. */
export interface Accuracy {
  /** 0–100; null without a single such move. */
  value: number | null;
  /** Its standard error in points: of so few moves, and of searches that may be wrong; null below two moves. */
  error: number | null;
  /** How many moves it rests on. */
  moves: number;
  /** Mean chance points lost a move. */
  meanLoss: number | null;
}

/**
 * Chance points by which the loss of a move may be wrong, as a standard deviation: where its verdict held, and where it was still
 * unsettled (docs/accuracy.md tells how they were measured).
 */
export const LOSS_NOISE = { settled: 2, unsettled: 4.2 } as const;

/** A move counts 100 when it loses nothing, and half of what it would for each mistake's worth that it loses. */
export const moveAccuracy = (loss: number): number =>
  100 * 2 ** (-Math.max(0, loss) / THRESHOLDS.mistake);

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** The mean over the moves' accuracies. `reviews`: of moves with at least two legal alternatives. */
export function accuracyOf(reviews: readonly RatedMove[]): Accuracy {
  const moves = reviews.length;
  if (moves === 0) return { value: null, error: null, moves, meanLoss: null };
  const accuracies = reviews.map(({ loss }) => moveAccuracy(loss));
  const value = mean(accuracies);
  return {
    value,
    error: moves < 2 ? null : standardError(reviews, accuracies, value),
    moves,
    meanLoss: mean(reviews.map(({ loss }) => loss)),
  };
}

function standardError(
  reviews: readonly RatedMove[],
  accuracies: readonly number[],
  value: number,
): number {
  const spread =
    accuracies.reduce((sum, accuracy) => sum + (accuracy - value) ** 2, 0) / (reviews.length - 1);
  // what a point of loss is worth in points of accuracy, by the slope of moveAccuracy
  const noise = mean(
    reviews.map(({ isUnsettled }, index) => {
      const points = isUnsettled ? LOSS_NOISE.unsettled : LOSS_NOISE.settled;
      return ((Math.LN2 / THRESHOLDS.mistake) * accuracies[index]! * points) ** 2;
    }),
  );
  return Math.sqrt((spread + noise) / reviews.length);
}
