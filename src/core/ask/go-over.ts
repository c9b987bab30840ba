import type { GameKind, SearchRoot, Side } from '../game/ruleset';
import { lossOf } from '../review/chance';
import { THRESHOLDS } from '../review/verdict';
import type { AnswerLine, Plan } from './question';

/** A move of a calculated line, and what it should have been. */
export interface CalculatedMove {
  code: string;
  side: Side;
  /** Chance points that it gives away at the depth looked to. */
  loss: number;
  /** The better line at its place, and what follows the move itself. */
  better: AnswerLine;
  played: AnswerLine;
}

/** The first move of a calculated line that fails: it is no longer good enough to count on. */
export const firstFailure = (steps: readonly CalculatedMove[]): number =>
  steps.findIndex(({ loss }) => loss >= THRESHOLDS.mistake);

/**
 * Goes over a calculated line move by move and stops at the first that fails, or behind which there is nothing to find.
 * @param moves each with the position before it
 */
export const goOver =
  (
    kind: GameKind,
    moves: readonly { code: string; side: Side; root: SearchRoot }[],
    depth: number,
  ): Plan<readonly CalculatedMove[]> =>
  async (ask, tell) => {
    let steps: readonly CalculatedMove[] = [];
    for (const { code, side, root } of moves) {
      const look = (only?: readonly string[]) =>
        ask({ kind, root, budget: { depth }, lines: 1, fresh: false, ...(only ? { only } : {}) });
      const [best] = (await look()).lines;
      const [own] = best?.moves[0] === code ? [best] : (await look([code])).lines;
      if (!best || !own) return steps;
      const loss = lossOf(kind, best.score, own.score, side);
      steps = [...steps, { code, side, loss, better: best, played: own }];
      tell(steps);
      if (firstFailure(steps) >= 0) return steps;
    }
    return steps;
  };
