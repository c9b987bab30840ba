import { isHard, isRejected, type Seen } from './seen';

/** Of moves that give something away. */
export const FLAGS = ['blunder', 'mistake', 'inaccuracy'] as const;
export type Flag = (typeof FLAGS)[number];
/** Of the only moves that keep the result, by how hard they are to find. */
const FINDS = ['very good', 'good', 'only move'] as const;
export const VERDICTS = [...FLAGS, ...FINDS, 'none'] as const;
/** What a move is worth in one sign. */
export type Verdict = (typeof VERDICTS)[number];

export const isFlag = (verdict: Verdict): verdict is Flag =>
  (FLAGS as readonly Verdict[]).includes(verdict);
export const isFind = (verdict: Verdict): boolean =>
  (FINDS as readonly Verdict[]).includes(verdict);

/** Chance points that a move must give away; each twice the one before. */
export const THRESHOLDS = { inaccuracy: 6, mistake: 12, blunder: 24 } as const;

/** NAGs of the open set. */
export const VERDICT_NAG: Record<Exclude<Verdict, 'none'>, number> = {
  blunder: 4,
  mistake: 2,
  inaccuracy: 6,
  'very good': 3,
  good: 1,
  'only move': 7,
};

export const SIGN_OF_NAG: Readonly<Record<number, string>> = {
  1: '!',
  2: '?',
  3: '!!',
  4: '??',
  5: '!?',
  6: '?!',
  7: '□',
  10: '=',
  13: '∞',
  14: '+=',
  15: '=+',
  16: '±',
  17: '∓',
  18: '+−',
  19: '−+',
  22: '⨀',
  32: '⟳',
  36: '→',
  40: '↑',
  132: '⇆',
  140: '∆',
  146: 'N',
};

/** The sign of a NAG, or `$n` where it has none. */
export const signOfNag = (nag: number): string => SIGN_OF_NAG[nag] ?? `$${nag}`;

/** A move that loses so much, where the best leads all others by a margin, keeps what none of them keeps. */
export const keepsAlone = (loss: number, margin: number): boolean =>
  margin >= THRESHOLDS.mistake && loss < margin - THRESHOLDS.inaccuracy;

/**
 * @param loss chance points given away
 * @param margin chance points by which the best move leads the second best; null where that is not known
 * @param obvious a forced move or a recapture, which earns no sign for being the only one
 * @param seen how far one has to look ahead to find it, where that is known
 */
export function verdictOf(
  loss: number,
  margin: number | null,
  obvious: boolean,
  seen?: Seen,
): Verdict {
  if (loss >= THRESHOLDS.blunder) return 'blunder';
  if (loss >= THRESHOLDS.mistake) return 'mistake';
  if (loss >= THRESHOLDS.inaccuracy) return 'inaccuracy';
  if (obvious || margin === null || !keepsAlone(loss, margin)) return 'none';
  if (!seen || !isHard(seen)) return 'only move';
  return isRejected(seen) ? 'very good' : 'good';
}
