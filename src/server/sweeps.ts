import { and, desc, eq, isNotNull, lt, sql } from 'drizzle-orm';
import type { SweepStatus } from '@/contract/review';
import { mainLine } from '@/core/game/tree';
import { REVIEW_RULES } from '@/core/review/findings';
import { readSettingsText, settingsText, type SweepSettings } from '@/core/review/sweep-settings';
import { addAsk, announceAsk, cancelAsk, type AskRow } from './asks';
import { database, type Transaction } from './database';
import { findGame, type StoredGame } from './games';
import type { OwnerRef } from './owner';
import { enqueue, isTaken } from './queue';
import { asks } from './schema';

const STATUS = {
  id: asks.id,
  settings: asks.settings,
  version: asks.version,
  state: asks.state,
  done: asks.done,
  total: asks.total,
  inBatch: sql<boolean>`${asks.parentId} is not null`,
  error: asks.error,
};

/** Queues a sweep of a game, or returns the one that is under way; one that waits in a batch waits no longer. Null without such a game. */
export async function startSweep(
  owner: OwnerRef,
  gameId: number,
  settings: SweepSettings,
): Promise<SweepStatus | null> {
  const game = await findGame(owner, gameId);
  if (!game) return null;
  const ask = sweepOf(owner, game, settings);
  const started = await database().transaction(
    async (tx) => (await addAsk(tx, ask)) ?? (await takeFromBatch(tx, owner, gameId, ask.settings)),
  );
  if (started) await announceAsk(started);
  return latestSweep(owner, gameId);
}

const sweepOf = (owner: OwnerRef, { id, record }: StoredGame, settings: SweepSettings) =>
  ({
    ownerId: owner.id,
    gameId: id,
    plan: 'sweep',
    settings: settingsText(settings),
    total: mainLine(record.tree).length + 1,
  }) as const;

/**
 * Goes over a game once more as the sweep that is shown did, where the same engine made it and no other waits: what has become certain
 * since is taken up, what the engine said is still known.
 */
export async function sweepAnew(owner: OwnerRef, game: StoredGame, version: string): Promise<void> {
  const shown = await shownSweep(owner, game.id);
  if (shown?.state !== 'done' || shown.version !== version) return;
  const ask = sweepOf(owner, game, readSettingsText(shown.settings));
  const added = await database().transaction((tx) => addAsk(tx, ask));
  if (added) await announceAsk(added);
}

const ofGame = (owner: OwnerRef, gameId: number) =>
  and(eq(asks.ownerId, owner.id), eq(asks.gameId, gameId), eq(asks.plan, 'sweep'));

/** Has a sweep that waits in a batch done by itself, as is wished now; null where none does. */
async function takeFromBatch(
  tx: Transaction,
  owner: OwnerRef,
  gameId: number,
  settings: string,
): Promise<AskRow | null> {
  const [waiting] = await tx
    .select({ id: asks.id, batch: asks.parentId })
    .from(asks)
    .where(and(ofGame(owner, gameId), eq(asks.state, 'queued'), isNotNull(asks.parentId)))
    .for('update');
  if (!waiting || (await isTaken(tx, 'sweep', waiting.id))) return null;
  const { id, batch } = waiting;
  const [taken] = await tx
    .update(asks)
    .set({ parentId: null, settings })
    .where(eq(asks.id, id))
    .returning();
  await tx
    .update(asks)
    .set({ total: sql`${asks.total} - 1` })
    .where(eq(asks.id, batch!));
  // nothing is left of it
  await tx.delete(asks).where(and(eq(asks.id, batch!), eq(asks.total, 0)));
  await enqueue(tx, 'sweep', id);
  return taken!;
}

export async function latestSweep(owner: OwnerRef, gameId: number): Promise<SweepStatus | null> {
  const [row] = await database()
    .select(STATUS)
    .from(asks)
    .where(ofGame(owner, gameId))
    .orderBy(desc(asks.id))
    .limit(1);
  return row ?? null;
}

/** Calls a sweep off; what it has found so far stays. */
export const cancelSweep = (owner: OwnerRef, id: number): Promise<boolean> =>
  cancelAsk(owner, 'sweep', id);

/** The sweep whose findings are shown: the latest that is complete; before there is one, the latest that has begun. */
export async function shownSweep(owner: OwnerRef, gameId: number) {
  const [row] = await database()
    .select({ ...STATUS, findings: asks.findings, rules: asks.rules, beside: asks.beside })
    .from(asks)
    .where(and(ofGame(owner, gameId), isNotNull(asks.version)))
    .orderBy(desc(sql`${asks.state} = 'done'`), desc(asks.id))
    .limit(1);
  return row ?? null;
}

/** What the latest complete sweep of a game said, or the latest before another; null where there is none, or other rules made it. */
export async function completeSweep(gameId: number, before?: number) {
  const [row] = await database()
    .select({ settings: asks.settings, findings: asks.findings, rules: asks.rules })
    .from(asks)
    .where(
      and(
        eq(asks.gameId, gameId),
        eq(asks.plan, 'sweep'),
        eq(asks.state, 'done'),
        before === undefined ? undefined : lt(asks.id, before),
      ),
    )
    .orderBy(desc(asks.id))
    .limit(1);
  return row?.findings && row.rules === REVIEW_RULES
    ? { settings: row.settings, findings: row.findings }
    : null;
}

/** Sets the sweep that is shown beside the one before it, or lets that one give way; false where none is shown. */
export async function setBeside(
  owner: OwnerRef,
  gameId: number,
  beside: boolean,
): Promise<boolean> {
  const shown = await shownSweep(owner, gameId);
  if (!shown) return false;
  await database().update(asks).set({ beside }).where(eq(asks.id, shown.id));
  return true;
}
