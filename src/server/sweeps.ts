import { and, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { mainLine } from '@/core/game/tree';
import type { PositionEvaluation } from '@/core/review/review';
import { rulesetOf } from '@/core/rulesets';
import { settingsText, type SweepSettings } from '@/core/review/sweep-settings';
import { database } from './database';
import { evaluationsOf } from './evaluations';
import { announce } from './events';
import { findGame, type StoredGame } from './games';
import type { Owner } from './owner';
import { dequeue, enqueue } from './queue';
import { sweeps, type SweepState } from './schema';

export interface SweepStatus {
  id: number;
  gameId: number;
  settings: string;
  engine: string | null;
  state: SweepState;
  done: number;
  total: number;
  error: string | null;
}

const OPEN: SweepState[] = ['queued', 'running'];

/** Queues a sweep of a game, or returns the one that is under way; null without such a game. */
export async function startSweep(
  owner: Owner,
  gameId: number,
  settings: SweepSettings,
): Promise<SweepStatus | null> {
  const game = await findGame(owner, gameId);
  if (!game) return null;
  const started = await database().transaction(async (tx) => {
    const [created] = await tx
      .insert(sweeps)
      .values({
        ownerId: owner.id,
        gameId,
        settings: settingsText(settings),
        total: mainLine(game.record.tree).length + 1,
      })
      .onConflictDoNothing()
      .returning();
    if (created) await enqueue(tx, 'sweep', created.id);
    return created ?? null;
  });
  if (!started) return latestSweep(owner, gameId);
  await announce({ owner: owner.id, type: 'sweep', id: started.id, gameId });
  return started;
}

export async function latestSweep(owner: Owner, gameId: number): Promise<SweepStatus | null> {
  const [row] = await database()
    .select()
    .from(sweeps)
    .where(and(eq(sweeps.ownerId, owner.id), eq(sweeps.gameId, gameId)))
    .orderBy(desc(sweeps.id))
    .limit(1);
  return row ?? null;
}

/** Calls a sweep off; what it has found so far stays. */
export async function cancelSweep(owner: Owner, id: number): Promise<boolean> {
  const cancelled = await database().transaction(async (tx) => {
    const [row] = await tx
      .update(sweeps)
      .set({ state: 'cancelled', finishedAt: new Date() })
      .where(and(eq(sweeps.ownerId, owner.id), eq(sweeps.id, id), inArray(sweeps.state, OPEN)))
      .returning();
    if (row) await dequeue(tx, 'sweep', id);
    return row;
  });
  if (!cancelled) return false;
  const { gameId } = cancelled;
  await announce({ owner: owner.id, type: 'sweep', id, gameId, cancelled: true });
  return true;
}

export interface SweepResults {
  sweep: SweepStatus | null;
  /** The sweep that found what is shown, which stays until a newer one is complete; null without any. */
  shown: { settings: string } | null;
  /** By ply; empty without a sweep. */
  evaluations: (PositionEvaluation | null)[];
  /** The main line whose positions these are, in UCI or USI. */
  line: string[];
}

/** The latest sweep of a game, and what the sweep to be shown has found. */
export async function sweepResults(owner: Owner, game: StoredGame): Promise<SweepResults> {
  const { tree } = game.record;
  const line = mainLine(tree).map(({ move }) => rulesetOf(tree.kind).code(move));
  const sweep = await latestSweep(owner, game.id);
  const shown = await shownSweep(owner, game.id);
  if (!shown) return { sweep, shown: null, evaluations: [], line };
  const { engine, settings } = shown;
  const found = await evaluationsOf(game.record, engine, settings);
  return { sweep, shown: { settings }, evaluations: found, line };
}

/** The latest sweep that is complete; before there is one, the latest that has begun. */
async function shownSweep(
  owner: Owner,
  gameId: number,
): Promise<{ engine: string; settings: string } | null> {
  const [row] = await database()
    .select({ engine: sweeps.engine, settings: sweeps.settings })
    .from(sweeps)
    .where(and(eq(sweeps.ownerId, owner.id), eq(sweeps.gameId, gameId), isNotNull(sweeps.engine)))
    .orderBy(desc(sql`${sweeps.state} = 'done'`), desc(sweeps.id))
    .limit(1);
  return row ? { engine: row.engine!, settings: row.settings } : null;
}

/** For the worker: the sweep with its game, whatever its owner; null once it is no longer open. */
export async function openSweep(
  id: number,
): Promise<{ sweep: typeof sweeps.$inferSelect; game: StoredGame; owner: Owner } | null> {
  const [sweep] = await database()
    .select()
    .from(sweeps)
    .where(and(eq(sweeps.id, id), inArray(sweeps.state, OPEN)));
  if (!sweep) return null;
  const owner = { id: sweep.ownerId, playerName: '' };
  const game = await findGame(owner, sweep.gameId);
  return game && { sweep, game, owner };
}

type Progress = Partial<Pick<SweepStatus, 'state' | 'done' | 'total' | 'engine' | 'error'>>;

/** For the worker: records progress unless the sweep has been called off meanwhile; false if it has. */
export async function recordProgress(id: number, progress: Progress): Promise<boolean> {
  const finished = progress.state === 'done' || progress.state === 'failed';
  const [row] = await database()
    .update(sweeps)
    .set({
      ...progress,
      ...(progress.done === undefined ? {} : { failures: 0 }),
      ...(finished ? { finishedAt: sql`now()` } : {}),
    })
    .where(and(eq(sweeps.id, id), inArray(sweeps.state, OPEN)))
    .returning();
  if (!row) return false;
  await announce({ owner: row.ownerId, type: 'sweep', id, gameId: row.gameId });
  return true;
}

/** For the worker: another attempt went wrong; how many have since the sweep last got on. */
export async function countSweepFailure(id: number): Promise<number> {
  const [row] = await database()
    .update(sweeps)
    .set({ failures: sql`failures + 1` })
    .where(eq(sweeps.id, id))
    .returning({ failures: sweeps.failures });
  return row?.failures ?? 0;
}
