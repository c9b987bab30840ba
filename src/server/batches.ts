import { and, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { Batch } from '@/contract/batches';
import { settingsText, type SweepSettings } from '@/core/review/sweep-settings';
import { announceAsk } from './asks';
import { database, type Transaction } from './database';
import { gamesOf, presentGames, type GameChoice } from './chosen-games';
import type { Owner, OwnerRef } from './owner';
import { ownSideSql } from './own-side';
import { dequeueBatch, feedBatches, UNHURRIED } from './queue';
import { asks, games, type AskState } from './schema';

/** How many batches are listed, and how long finished ones are. */
const LISTED = 5;
const REMEMBERED = '1 day';
/** How long ago a game may have been finished to tell how fast it goes. */
const LATELY = '10 minutes';

/**
 * Queues sweeps of the games that a filter holds; null where there are none that are not being gone over.
 * @param how of the owner's moves alone; behind the batches of all others, where nobody waits for it
 */
export async function startBatch(
  owner: Owner,
  filter: GameChoice & { onlyNew: boolean },
  settings: SweepSettings,
  how: { ownMoves?: boolean; isUnhurried?: boolean } = {},
): Promise<Batch | null> {
  const id = await database().transaction(async (tx) => {
    const batch = await openBatch(tx, owner, settings, how.isUnhurried ? UNHURRIED : 0);
    const swept = sql`exists (select from asks swept where swept.game_id = games.id and swept.plan = 'sweep' and swept.state = 'done')`;
    const held = gamesOf(owner, { ...filter, deleted: undefined });
    const wanted = filter.onlyNew ? sql`${held} and not ${swept}` : held;
    const by = how.ownMoves ? settingsBySide(owner, settings) : sql`${settingsText(settings)}`;
    if (await addToBatch(tx, batch, wanted, by)) return batch;
    await tx.delete(asks).where(eq(asks.id, batch));
    return null;
  });
  return id === null ? null : findBatch(owner, id);
}

/** A batch under way, without games. */
async function openBatch(
  tx: Transaction,
  owner: OwnerRef,
  settings: SweepSettings,
  rank = 0,
): Promise<number> {
  const [batch] = await tx
    .insert(asks)
    .values({
      ownerId: owner.id,
      plan: 'batch',
      settings: settingsText(settings),
      state: 'running',
      rank,
      total: 0,
    })
    .returning({ id: asks.id });
  return batch!.id;
}

/** Queues sweeps of games, but of those that are being gone over; returns how many. @param settings of each, as text */
async function addToBatch(
  tx: Transaction,
  batch: number,
  wanted: SQL,
  settings: SQL,
): Promise<number> {
  const { rowCount } = await tx.execute(
    sql`insert into asks (owner_id, game_id, parent_id, plan, settings, total)
      select owner_id, id, ${batch}, 'sweep', ${settings}, plies + 1 from games where ${wanted}
      order by coalesce(date, '') desc, id desc
      on conflict do nothing`,
  );
  const added = rowCount ?? 0;
  await tx
    .update(asks)
    .set({ total: sql`total + ${added}` })
    .where(eq(asks.id, batch));
  await feedBatches(tx);
  return added;
}

/**
 * Queues sweeps of games that have just come in, together with those that came before them.
 * @param batch which that is; null: there are none yet
 * @returns which it is from now on
 */
export async function sweepNewGames(
  tx: Transaction,
  owner: OwnerRef,
  batch: number | null,
  ids: readonly number[],
  settings: SweepSettings,
): Promise<number> {
  const id = batch ?? (await openBatch(tx, owner, settings));
  await addToBatch(
    tx,
    id,
    and(presentGames(owner), inArray(games.id, [...ids]))!,
    sql`${settingsText(settings)}`,
  );
  return id;
}

/** Of a game: its owner's moves alone where it is known which those are. */
const settingsBySide = (owner: Owner, settings: SweepSettings): SQL => {
  const whole = settingsText(settings);
  const [first, second] = ([0, 1] as const).map((side) =>
    'average' in settings
      ? settingsText({ ...settings, moves: { ...settings.moves, side } })
      : whole,
  );
  return sql`case ${ownSideSql(owner)} when 0 then ${first} when 1 then ${second} else ${whole} end`;
};

/** It is done once none of its sweeps is open, whatever has become of them. */
const OPEN_PARTS = sql`exists (select from asks part where part.parent_id = asks.id and part.state in ('queued', 'running'))`;

const batchesOf = (owner: OwnerRef) => and(eq(asks.ownerId, owner.id), eq(asks.plan, 'batch'));

/** Those under way, then those of the last day. */
export async function listBatches(owner: OwnerRef): Promise<Batch[]> {
  const rows = await database()
    .select({ id: asks.id })
    .from(asks)
    .where(
      and(batchesOf(owner), sql`(${OPEN_PARTS} or created_at > now() - ${REMEMBERED}::interval)`),
    )
    .orderBy(sql`${OPEN_PARTS} desc, rank desc, id desc`)
    .limit(LISTED);
  const found = await Promise.all(rows.map(({ id }) => findBatch(owner, id)));
  return found.filter((batch) => batch !== null);
}

export async function findBatch(owner: OwnerRef, id: number): Promise<Batch | null> {
  const { rows } = await database().execute<Record<keyof Batch, unknown>>(
    sql`select batch.id::int as id, batch.settings, batch.total as games,
        case when batch.state = 'cancelled' or bool_or(part.state in ('queued', 'running')) then batch.state else 'done' end as state,
        count(*) filter (where part.state = 'done')::int as done,
        count(*) filter (where part.state = 'failed')::int as failed,
        count(*) filter (where part.state = 'running')::int as running,
        coalesce(sum(part.done), 0)::int as positions,
        coalesce(sum(part.total), 0)::int as "totalPositions",
        (sum(part.total - part.done) filter (where part.state in ('queued', 'running')) *
          extract(epoch from now() - greatest(batch.created_at, now() - ${LATELY}::interval)) /
          nullif(sum(part.done) filter (where part.state = 'done' and part.finished_at > now() - ${LATELY}::interval), 0)
        )::float8 as "secondsLeft",
        exists (select from asks single where single.plan = 'sweep' and single.state = 'running' and single.parent_id is null) as "givesWay"
      from asks batch left join asks part on part.parent_id = batch.id
      where batch.id = ${id} and batch.plan = 'batch' and batch.owner_id = ${owner.id}
      group by batch.id`,
  );
  return (rows[0] as Batch | undefined) ?? null;
}

/** Lets no further game begin, or goes on with those that wait; null where it is not under way. */
export async function pauseBatch(
  owner: OwnerRef,
  id: number,
  paused: boolean,
): Promise<Batch | null> {
  const changed = await database().transaction(async (tx) => {
    const [row] = await tx
      .update(asks)
      .set({ state: paused ? 'paused' : 'running' })
      .where(and(batchesOf(owner), eq(asks.id, id), inArray(asks.state, ['running', 'paused'])))
      .returning();
    if (row) await (paused ? dequeueBatch(tx, id) : feedBatches(tx));
    return row;
  });
  return changed ? findBatch(owner, id) : null;
}

/** Puts a batch before all others of its owner that are under way, also those of its games that stand in the queue; null where it is not. */
export async function putFirst(owner: OwnerRef, id: number): Promise<Batch | null> {
  const changed = await database().transaction(async (tx) => {
    const [row] = await tx
      .update(asks)
      .set({
        rank: sql`(select coalesce(max(other.rank), 0) + 1 from asks other where other.owner_id = ${owner.id} and other.plan = 'batch')`,
      })
      .where(and(batchesOf(owner), eq(asks.id, id), inArray(asks.state, ['running', 'paused'])))
      .returning();
    if (row) await feedBatches(tx);
    return row;
  });
  return changed ? findBatch(owner, id) : null;
}

/** Calls off what is not finished yet; false where nothing is under way. */
export async function stopBatch(owner: OwnerRef, id: number): Promise<boolean> {
  const stopped = await database().transaction(async (tx) => {
    const cancelled = { state: 'cancelled', finishedAt: new Date() } as const;
    const [row] = await tx
      .update(asks)
      .set(cancelled)
      .where(and(batchesOf(owner), eq(asks.id, id), inArray(asks.state, ['running', 'paused'])))
      .returning();
    if (!row) return null;
    await dequeueBatch(tx, id);
    const parts = (state: AskState) => and(eq(asks.parentId, id), eq(asks.state, state));
    // workers that are at one of them are told
    const begun = await tx.update(asks).set(cancelled).where(parts('running')).returning();
    await tx.update(asks).set(cancelled).where(parts('queued'));
    return begun;
  });
  await Promise.all((stopped ?? []).map((part) => announceAsk(part, { cancelled: true })));
  return stopped !== null;
}
