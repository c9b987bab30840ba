import { and, eq, isNull, ne, or } from 'drizzle-orm';
import type { ReviewState, SweepStatus } from '@/contract/review';
import type { GameRecord } from '@/core/game/record';
import { annotated } from '@/core/review/annotate';
import {
  findingsAlong,
  findingsFrom,
  mainLineCodes,
  REVIEW_RULES,
  type SweepFindings,
} from '@/core/review/findings';
import { figuresOf } from '@/core/review/game-figures';
import type { PositionEvaluation } from '@/core/review/evaluation';
import { answersKnown } from '@/core/review/known-answers';
import type { Remarks } from '@/core/review/remarks';
import type { Findings, MoveReview } from '@/core/review/review';
import { readSettingsText } from '@/core/review/sweep-settings';
import { database } from './database';
import { KnownEvaluations } from './evaluations';
import { findGame, type StoredGame } from './games';
import type { Owner } from './owner';
import { asks } from './schema';
import { latestSweep, shownSweep } from './sweeps';

/** What the sweep that is shown says of a game, and what it found at each position. */
export interface GameFindings {
  sweep: SweepStatus;
  /** Of the main line that it went over; where it is not complete yet, of what it has found so far. */
  findings: SweepFindings;
  /** By ply of the present main line; null where nothing is known. */
  evaluations: readonly (PositionEvaluation | null)[];
}

/** What the sweep that is shown says; null before one has begun. */
export async function findingsOf(owner: Owner, game: StoredGame): Promise<GameFindings | null> {
  const shown = await shownSweep(owner, game.id);
  if (!shown) return null;
  const { findings: stored, rules, ...sweep } = shown;
  const evaluations = await evaluationsFor(game, sweep);
  const isStored = stored !== null && rules === REVIEW_RULES;
  if (isStored) return { sweep, findings: stored, evaluations };
  const findings = findingsFrom(game.record, evaluations);
  if (sweep.state === 'done') await keepFindings(sweep.id, findings);
  return { sweep, findings, evaluations };
}

/** What a sweep has found, or has found so far; by ply of the present main line. */
async function evaluationsFor(
  { record }: StoredGame,
  { version, settings }: Pick<SweepStatus, 'version' | 'settings'>,
): Promise<readonly (PositionEvaluation | null)[]> {
  const known = await KnownEvaluations.load(record, version ?? '');
  return known.evaluations(readSettingsText(settings));
}

/** What is stored of a sweep that is complete. */
export const kept = (findings: SweepFindings) => ({
  findings,
  figures: figuresOf(findings.findings),
  rules: REVIEW_RULES,
});

const keepFindings = async (id: number, findings: SweepFindings): Promise<void> =>
  void (await database()
    .update(asks)
    .set(kept(findings))
    .where(and(eq(asks.id, id), eq(asks.state, 'done'))));

/** What is still true of the game as it is now. */
export const presentFindings = (game: StoredGame, { findings }: GameFindings): Findings =>
  findingsAlong(findings, mainLineCodes(game.record));

/** A copy of the game with the sweep's findings written into it. @param say the words for a better line */
export async function withFindings(
  owner: Owner,
  game: StoredGame,
  say: (review: MoveReview) => string,
  remarks: Remarks,
): Promise<GameRecord> {
  const found = await findingsOf(owner, game);
  if (!found) return game.record;
  const findings = presentFindings(game, found);
  return annotated(game.record, findings, found.evaluations, say, Math.random, remarks);
}

/** What a page has already of a sweep that is shown. */
export interface KnownReview {
  sweep: number;
  /** It has the findings. */
  isComplete: boolean;
  /** As `knownAnswers` writes them. */
  answers: string;
}

/** What a page is told of a game's review, without what it has already. */
export async function reviewOf(
  owner: Owner,
  game: StoredGame,
  has: KnownReview | null = null,
): Promise<ReviewState> {
  const sweep = await latestSweep(owner, game.id);
  const shown = await shownSweep(owner, game.id);
  if (!shown) return { sweep, shown: null };
  const { findings, rules, ...status } = shown;
  const known = has?.sweep === status.id ? has : null;
  const evaluations = known?.isComplete
    ? []
    : (await evaluationsFor(game, status)).flatMap((found, ply): [number, PositionEvaluation][] =>
        found && found.answers !== answersKnown(known?.answers ?? '', ply) ? [[ply, found]] : [],
      );
  return {
    sweep,
    shown: {
      sweep: status,
      findings: known?.isComplete || rules !== REVIEW_RULES ? null : findings,
      line: mainLineCodes(game.record),
      evaluations,
    },
  };
}

const BATCH = 20;

/** Reckons anew what was found under other rules, game by game; returns how many there were. */
export async function reckonAnew(): Promise<number> {
  let reckoned = 0;
  for (;;) {
    const rows = await database()
      .select({ id: asks.id, ownerId: asks.ownerId, gameId: asks.gameId })
      .from(asks)
      .where(
        and(
          eq(asks.plan, 'sweep'),
          eq(asks.state, 'done'),
          or(isNull(asks.rules), ne(asks.rules, REVIEW_RULES)),
        ),
      )
      .limit(BATCH);
    if (rows.length === 0) return reckoned;
    for (const { id, ownerId, gameId } of rows) {
      await reckon(id, { id: ownerId, playerName: '' }, gameId ?? 0);
      reckoned++;
    }
  }
}

async function reckon(id: number, owner: Owner, gameId: number): Promise<void> {
  const [sweep] = await database().select().from(asks).where(eq(asks.id, id));
  const game = await findGame(owner, gameId);
  if (!sweep || !game) return;
  await keepFindings(id, findingsFrom(game.record, await evaluationsFor(game, sweep)));
}
