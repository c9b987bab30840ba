import { and, eq, gt, isNull, ne, or } from 'drizzle-orm';
import type { Comparison, ReviewState, SweepStatus } from '@/contract/review';
import type { Found } from '@/core/ask/swept';
import type { GameRecord } from '@/core/game/record';
import { annotated } from '@/core/review/annotate';
import {
  changesBetween,
  findingsAlong,
  findingsFrom,
  findingsOfSweep,
  mainLineCodes,
  overlaid,
  REVIEW_RULES,
  type SweepFindings,
} from '@/core/review/findings';
import type { PositionEvaluation } from '@/core/review/evaluation';
import { answersKnown } from '@/core/review/known-answers';
import type { Remarks } from '@/core/review/remarks';
import type { Findings, MoveReview } from '@/core/review/review';
import { goesOverVariations, playedAlone, readSettingsText } from '@/core/review/sweep-settings';
import { database } from './database';
import { KnownEvaluations } from './evaluations';
import { keepFigures } from './game-figures';
import { findGame, type StoredGame } from './games';
import type { OwnerRef } from './owner';
import { asks } from './schema';
import { completeSweep, latestSweep, shownSweep } from './sweeps';

/** What the sweep that is shown says of a game, and what it found at each position. */
export interface GameFindings {
  sweep: SweepStatus;
  /** Of the main line that it went over; where it is not complete yet, of what it has found so far. */
  findings: SweepFindings;
  /** By ply of the present main line; null where nothing is known. */
  evaluations: readonly (PositionEvaluation | null)[];
}

/** What the sweep that is shown says; null before one has begun. */
export async function findingsOf(owner: OwnerRef, game: StoredGame): Promise<GameFindings | null> {
  const shown = await shownSweep(owner, game.id);
  if (!shown) return null;
  const { findings: stored, rules, beside: _, ...sweep } = shown;
  const evaluations = await evaluationsFor(game, sweep);
  const isStored = stored !== null && rules === REVIEW_RULES;
  if (isStored) return { sweep, findings: stored, evaluations };
  const findings =
    sweep.state === 'done'
      ? await keepFindings(game, sweep.id, await foundBy(game, sweep))
      : findingsFrom(game.record, evaluations);
  return { sweep, findings, evaluations };
}

/** What a sweep has found, or has found so far, in the main line alone; by ply, null where nothing is known. */
async function evaluationsFor(
  { record }: StoredGame,
  { version, settings }: Pick<SweepStatus, 'version' | 'settings'>,
): Promise<readonly (PositionEvaluation | null)[]> {
  const played = playedAlone(readSettingsText(settings));
  if (!played) return [null, ...mainLineCodes(record)].map(() => null);
  return (await (await KnownEvaluations.load(record, version ?? '')).found(played)).evaluations();
}

/** What a sweep has found, in variations too. */
async function foundBy(
  { record }: StoredGame,
  { version, settings: text }: Pick<SweepStatus, 'version' | 'settings'>,
): Promise<Found> {
  const settings = readSettingsText(text);
  const known = await KnownEvaluations.load(record, version ?? '', goesOverVariations(settings));
  return known.found(settings);
}

/** What is stored of a sweep that is complete: of moves that it has not gone over, it says what an earlier one said. */
export async function completed({ id, record }: StoredGame, sweep: number, found: Found) {
  const own = findingsOfSweep(record, found);
  const earlier = await completeSweep(id, sweep);
  const findings = earlier ? overlaid(own, earlier.findings) : own;
  return { findings, rules: REVIEW_RULES };
}

async function keepFindings(game: StoredGame, sweep: number, found: Found): Promise<SweepFindings> {
  const kept = await completed(game, sweep, found);
  await database().transaction(async (tx) => {
    await tx
      .update(asks)
      .set(kept)
      .where(and(eq(asks.id, sweep), eq(asks.state, 'done')));
    await keepFigures(tx, game.id, sweep, kept.findings);
  });
  return kept.findings;
}

/** What is different from what the sweep before said; null where there is none to set this one beside. */
async function comparisonOf(
  gameId: number,
  sweep: number,
  findings: SweepFindings,
): Promise<Comparison | null> {
  const earlier = await completeSweep(gameId, sweep);
  return (
    earlier && {
      settings: earlier.settings,
      changes: changesBetween(earlier.findings, findings),
    }
  );
}

/** What is still true of the game as it is now. */
export const presentFindings = (game: StoredGame, { findings }: GameFindings): Findings =>
  findingsAlong(findings, mainLineCodes(game.record));

/** A copy of the game with the sweep's findings written into it. @param say the words for a better line */
export async function withFindings(
  owner: OwnerRef,
  game: StoredGame,
  say: (review: MoveReview) => string,
  remarks: Remarks,
): Promise<GameRecord> {
  const found = await findingsOf(owner, game);
  if (!found) return game.record;
  const findings = presentFindings(game, found);
  const { variations } = found.findings;
  return annotated(
    game.record,
    { findings, evaluations: found.evaluations, variations },
    say,
    Math.random,
    remarks,
  );
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
  owner: OwnerRef,
  game: StoredGame,
  has: KnownReview | null = null,
): Promise<ReviewState> {
  const sweep = await latestSweep(owner, game.id);
  const shown = await shownSweep(owner, game.id);
  if (!shown) return { sweep, shown: null };
  const { findings: stored, rules, beside, ...status } = shown;
  const known = has?.sweep === status.id ? has : null;
  const findings = known?.isComplete || rules !== REVIEW_RULES ? null : stored;
  const evaluations = known?.isComplete
    ? []
    : (await evaluationsFor(game, status)).flatMap((found, ply): [number, PositionEvaluation][] =>
        found && found.answers !== answersKnown(known?.answers ?? '', ply) ? [[ply, found]] : [],
      );
  return {
    sweep,
    shown: {
      sweep: status,
      findings,
      comparison: findings && beside ? await comparisonOf(game.id, status.id, findings) : null,
      line: mainLineCodes(game.record),
      evaluations,
    },
  };
}

const BATCH = 20;

/** Reckons anew what was found under other rules, game by game; returns how many there were. */
export async function reckonAnew(): Promise<number> {
  let reckoned = 0;
  for (let last = 0; ;) {
    const rows = await database()
      .select({ id: asks.id, ownerId: asks.ownerId, gameId: asks.gameId })
      .from(asks)
      .where(
        and(
          eq(asks.plan, 'sweep'),
          eq(asks.state, 'done'),
          or(isNull(asks.rules), ne(asks.rules, REVIEW_RULES)),
          // those of games that were deleted stay as they are
          gt(asks.id, last),
        ),
      )
      // later ones take over what earlier ones say
      .orderBy(asks.id)
      .limit(BATCH);
    if (rows.length === 0) return reckoned;
    last = rows.at(-1)!.id;
    for (const { id, ownerId, gameId } of rows) {
      await reckon(id, { id: ownerId }, gameId ?? 0);
      reckoned++;
    }
  }
}

async function reckon(id: number, owner: OwnerRef, gameId: number): Promise<void> {
  const [sweep] = await database().select().from(asks).where(eq(asks.id, id));
  const game = await findGame(owner, gameId);
  if (!sweep || !game) return;
  await keepFindings(game, id, await foundBy(game, sweep));
}
