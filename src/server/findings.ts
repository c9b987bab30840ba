import { mainLine, positionsAlong } from '@/core/game/tree';
import type { GameRecord } from '@/core/game/record';
import { annotated } from '@/core/review/annotate';
import {
  reviewGame,
  type Findings,
  type MoveReview,
  type PositionEvaluation,
} from '@/core/review/review';
import { rulesetOf } from '@/core/rulesets';
import type { StoredGame } from './games';
import type { Owner } from './owner';
import { sweepResults, type SweepStatus } from './sweeps';

/** What the latest sweep of a game says of its main line. */
export async function findingsOf(
  owner: Owner,
  game: StoredGame,
): Promise<{
  sweep: SweepStatus | null;
  findings: Findings;
  evaluations: (PositionEvaluation | null)[];
}> {
  const { sweep, evaluations } = await sweepResults(owner, game);
  const { tree } = game.record;
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const findings = reviewGame(
    ruleset,
    positionsAlong(ruleset, tree.start, line),
    line.map(({ move }) => move),
    evaluations,
  );
  return { sweep, findings, evaluations };
}

/** A copy of the game with the sweep's findings written into it. @param say the words for a better line */
export async function withFindings(
  owner: Owner,
  game: StoredGame,
  say: (review: MoveReview) => string,
): Promise<GameRecord> {
  const { findings, evaluations } = await findingsOf(owner, game);
  return annotated(game.record, findings, evaluations, say, Math.random);
}
