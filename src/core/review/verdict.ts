export const VERDICTS = ['blunder', 'mistake', 'inaccuracy', 'only move', 'none'] as const;
/** What a move is worth in one sign. `!` and `!!` are given by people only. */
export type Verdict = (typeof VERDICTS)[number];

/** Chance points that a move must give away; each twice the one before. */
export const THRESHOLDS = { inaccuracy: 6, mistake: 12, blunder: 24 } as const;

/** NAGs of the open set. */
export const VERDICT_NAG: Record<Exclude<Verdict, 'none'>, number> = {
  blunder: 4,
  mistake: 2,
  inaccuracy: 6,
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

/**
 * @param loss chance points given away
 * @param margin chance points by which the best move leads the second best; null where that is not known
 * @param obvious a forced move or a recapture, which earns no sign for being the only one
 */
export function verdictOf(loss: number, margin: number | null, obvious: boolean): Verdict {
  if (loss >= THRESHOLDS.blunder) return 'blunder';
  if (loss >= THRESHOLDS.mistake) return 'mistake';
  if (loss >= THRESHOLDS.inaccuracy) return 'inaccuracy';
  const onlyMove = margin !== null && margin >= THRESHOLDS.mistake && !obvious;
  return onlyMove && loss < margin - THRESHOLDS.inaccuracy ? 'only move' : 'none';
}
