import { and, eq, inArray, sql } from 'drizzle-orm';
import { pathTo } from '@/core/game/tree';
import { walk } from '@/core/game/walk';
import { rulesetOf } from '@/core/rulesets';
import { database, type Transaction } from './database';
import { announce } from './events';
import { keepFigures } from './game-figures';
import { findGame, type StoredGame } from './games';
import type { OwnerRef } from './owner';
import { dequeue, enqueue } from './queue';
import { asks, type AskState, type JobPlan } from './schema';

export type AskRow = typeof asks.$inferSelect;

export const OPEN_STATES: AskState[] = ['queued', 'running'];

/** Keeps what is asked and queues it, within a transaction; null where the same is asked already. */
export async function addAsk(
  tx: Transaction,
  ask: typeof asks.$inferInsert & { plan: JobPlan },
  laneOf: (id: number) => string | null = () => null,
  priority = 0,
): Promise<AskRow | null> {
  const [created] = await tx.insert(asks).values(ask).onConflictDoNothing().returning();
  if (created) await enqueue(tx, ask.plan, created.id, laneOf(created.id), priority);
  return created ?? null;
}

/** The same where one owner may have so many open, whose first goes before the second of another; null where there are as many already. */
export async function addCountedAsk(
  ask: typeof asks.$inferInsert & { plan: JobPlan },
  most: number,
  laneOf?: (id: number) => string | null,
): Promise<AskRow | null> {
  const { ownerId, plan } = ask;
  const added = await database().transaction(async (tx) => {
    // those who ask at once are counted one after the other
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended(${`${plan} of ${ownerId}`}, 0))`,
    );
    const open = await tx.$count(
      asks,
      and(eq(asks.ownerId, ownerId), eq(asks.plan, plan), inArray(asks.state, OPEN_STATES)),
    );
    return open >= most ? null : addAsk(tx, ask, laneOf, open);
  });
  if (added) await announceAsk(added);
  return added;
}

/** The moves to a position of a game that is asked about, in UCI or USI; null where they can't be played, or there are none after it. */
export function movesTo(
  { record: { tree } }: StoredGame,
  node: number,
  way: readonly string[],
): string[] | null {
  const ruleset = rulesetOf(tree.kind);
  const moves = [...pathTo(tree, node).map(({ move }) => ruleset.code(move)), ...way];
  const start = ruleset.start(tree.start);
  const walked = walk(ruleset, start, moves);
  const isPlayable =
    walked.length === moves.length && ruleset.moves(walked.at(-1)?.after ?? start).length > 0;
  return isPlayable ? moves : null;
}

/** Tells those who listen that there is something new about what was asked. */
export const announceAsk = (
  { ownerId, plan, id, gameId }: AskRow,
  what: { cancelled?: true; done?: boolean } = {},
): Promise<void> =>
  announce({ owner: ownerId, type: plan, id, gameId: gameId ?? undefined, ...what });

/** Calls off what was asked; what has been found so far stays. False where it was no longer open. */
export async function cancelAsk(owner: OwnerRef, plan: JobPlan, id: number): Promise<boolean> {
  const cancelled = await database().transaction(async (tx) => {
    const [row] = await tx
      .update(asks)
      .set({ state: 'cancelled', finishedAt: new Date() })
      .where(
        and(
          eq(asks.ownerId, owner.id),
          eq(asks.plan, plan),
          eq(asks.id, id),
          inArray(asks.state, OPEN_STATES),
        ),
      )
      .returning();
    if (row) await dequeue(tx, plan, id);
    return row;
  });
  if (cancelled) await announceAsk(cancelled, { cancelled: true });
  return cancelled !== undefined;
}

/** Takes away what was asked with all that was found, and calls it off where it is open. */
export async function removeAsk(owner: OwnerRef, plan: JobPlan, id: number): Promise<boolean> {
  const removed = await database().transaction(async (tx) => {
    const [row] = await tx
      .delete(asks)
      .where(and(eq(asks.ownerId, owner.id), eq(asks.plan, plan), eq(asks.id, id)))
      .returning();
    if (row) await dequeue(tx, plan, id);
    return row;
  });
  if (removed) await announceAsk(removed, { cancelled: true });
  return removed !== undefined;
}

/** For the worker: what was asked, with its game, whatever its owner; null once it is no longer open. */
export async function openAsk(
  plan: JobPlan,
  id: number,
): Promise<{ ask: AskRow; game: StoredGame } | null> {
  const [ask] = await database()
    .select()
    .from(asks)
    .where(and(eq(asks.id, id), eq(asks.plan, plan), inArray(asks.state, OPEN_STATES)));
  if (!ask) return null;
  const game = await findGame({ id: ask.ownerId }, ask.gameId ?? 0);
  return game && { ask, game };
}

/** For the worker: records how far it has come, unless it has been called off meanwhile; false if it has. */
export async function recordAsk(
  id: number,
  progress: Partial<
    Pick<
      AskRow,
      | 'state'
      | 'done'
      | 'total'
      | 'version'
      | 'settings'
      | 'answer'
      | 'findings'
      | 'rules'
      | 'error'
    >
  >,
): Promise<boolean> {
  const done = progress.state === 'done' || progress.state === 'failed';
  const failures =
    progress.answer !== undefined
      ? 0
      : // what was known before the last failure is told again, and is no progress
        sql`case when done < ${progress.done ?? 0} then 0 else failures end`;
  const row = await database().transaction(async (tx) => {
    const [recorded] = await tx
      .update(asks)
      .set({
        ...progress,
        failures,
        ...(done ? { finishedAt: sql`now()` } : {}),
      })
      .where(and(eq(asks.id, id), inArray(asks.state, OPEN_STATES)))
      .returning();
    if (recorded?.gameId && progress.findings)
      await keepFigures(tx, recorded.gameId, id, progress.findings);
    return recorded;
  });
  if (!row) return false;
  await announceAsk(row, { done });
  return true;
}

/** For the worker: another attempt went wrong; how many have since it last got on. */
export async function countFailure(id: number): Promise<number> {
  const [row] = await database()
    .update(asks)
    .set({ failures: sql`failures + 1` })
    .where(eq(asks.id, id))
    .returning({ failures: asks.failures });
  return row?.failures ?? 0;
}
