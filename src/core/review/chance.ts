import type { GameKind, Side } from '../game/ruleset';
import type { Score } from '../game/score';

/**
 * Hundredths of a pawn by which the odds of the expected score grow e-fold, fitted on games of our own engine
 * (docs/accuracy.md has the data and the error).
 */
export const CHANCE_SCALE: Record<GameKind, number> = { chess: 206, shogi: 518 };

/** Expected score of a side, 0–100, at a score: a logistic curve; a forced mate is worth 0 or 100. */
export function chanceOf(kind: GameKind, score: Score, side: Side): number {
  const first =
    score.kind === 'mate'
      ? score.winner === 0
        ? 100
        : 0
      : 100 / (1 + Math.exp(-score.cp / CHANCE_SCALE[kind]));
  return side === 0 ? first : 100 - first;
}
