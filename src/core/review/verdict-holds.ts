import { THRESHOLDS } from './verdict';

/** What two searches of the same effort, before and after a move, say of it: chances of the mover, 0–100. */
export interface MoveLook {
  /** After the best move. */
  best: number;
  /** After the move played. */
  played: number;
  /** The move played is the best. */
  isBest: boolean;
}

/** Points that it loses. */
export const lossIn = ({ best, played, isBest }: MoveLook): number =>
  isBest ? 0 : Math.max(0, best - played);

/** A loss above it is looked at once more after the first look. */
const WORTH_A_LOOK = 1;
/** What a further look might change after a longer one, which leaves small losses at that. */
const BORDERS = [THRESHOLDS.mistake, THRESHOLDS.blunder];
/** Points by which a loss may be wrong after a longer look though nothing moved. */
const DOUBT = 1.5;
/** Of what the difference has moved since the look before, so much counts as doubt. */
const MOVED = 0.5;
/** Points by which the position may turn out worse after the best move than before it, without another being better. */
const TENSION = { first: 3, longer: 4 };

/**
 * Whether a longer look would hardly change the verdict on a move.
 * @param now what the latest look says
 * @param before the one before, of a quarter of the effort; null where this is the first
 */
export function verdictHolds(now: MoveLook, before: MoveLook | null): boolean {
  const difference = now.best - now.played;
  if (now.isBest) return difference <= (before ? TENSION.longer : TENSION.first);
  const loss = lossIn(now);
  if (!before) return loss <= WORTH_A_LOOK;
  const doubt = DOUBT + MOVED * Math.abs(difference - (before.best - before.played));
  return BORDERS.every((border) => Math.abs(loss - border) >= doubt);
}
