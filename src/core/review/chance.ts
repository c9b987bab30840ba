import type { GameKind, Side } from '../game/ruleset';
import type { Score } from '../game/score';

/**
 * Hundredths of a pawn by which the odds of the expected score grow e-fold, fitted on games of our own engine
 * (docs/accuracy.md has the data and the error).
 */
export const CHANCE_SCALE: Record<GameKind, number> = { chess: 206, shogi: 518 };

/** Chance points that a side gives away by a move: what the best is worth to it less what this one is; never negative. */
export const lossOf = (kind: GameKind, best: Score, played: Score, side: Side): number =>
  Math.max(0, chanceOf(kind, best, side) - chanceOf(kind, played, side));

/** A loss in whole points, rounded down: what reads 6 has reached 6, and so the threshold that is 6. */
export const wholeLoss = (loss: number): number => Math.floor(loss);

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
