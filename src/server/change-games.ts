import { and, eq, inArray, isNotNull, lt, sql } from 'drizzle-orm';
import type * as z from 'zod';
import type { changeGames as contract } from '@/contract/library';
import { announceAsk } from './asks';
import { database, type Transaction } from './database';
import { gamesOf, type GameChoice } from './chosen-games';
import type { Owner, OwnerRef } from './owner';
import { asks, collectionGames, collections, games } from './schema';

export type GamesChange = z.infer<(typeof contract)['body']>['change'];

/** Does something with many games; tells how many there were, or that the collection is not the owner's. @param now when those that are deleted are said to be */
export async function changeGames(
  owner: Owner,
  choice: GameChoice,
  change: GamesChange,
  now = new Date(),
): Promise<number | 'missing'> {
  const wanted = gamesOf(owner, choice);
  switch (change.do) {
    case 'label':
    case 'unlabel': {
      const { label } = change;
      const labels =
        change.do === 'label'
          ? sql`case when ${label} = any(${games.labels}) then ${games.labels} else array_append(${games.labels}, ${label}) end`
          : sql`array_remove(${games.labels}, ${label})`;
      const { rowCount } = await database().update(games).set({ labels }).where(wanted);
      return rowCount ?? 0;
    }
    case 'put':
    case 'takeOut': {
      const { collection } = change;
      return database().transaction(async (tx) => {
        if (!(await lockCollection(tx, owner, collection))) return 'missing';
        const ids = tx.select({ id: games.id }).from(games).where(wanted);
        const { rowCount } =
          change.do === 'put'
            ? await tx
                .insert(collectionGames)
                .select(
                  tx
                    .select({
                      collectionId: sql<number>`${collection}::bigint`.as('collection_id'),
                      gameId: games.id,
                    })
                    .from(games)
                    .where(wanted),
                )
                .onConflictDoNothing()
            : await tx
                .delete(collectionGames)
                .where(
                  and(
                    eq(collectionGames.collectionId, collection),
                    inArray(collectionGames.gameId, ids),
                  ),
                );
        return rowCount ?? 0;
      });
    }
    case 'delete':
      return deleteGames(owner, choice, now);
    case 'restore':
      return restoreGames(owner, choice);
  }
}

async function lockCollection(tx: Transaction, owner: OwnerRef, id: number): Promise<boolean> {
  const [known] = await tx
    .select({ id: collections.id })
    .from(collections)
    .where(and(eq(collections.ownerId, owner.id), eq(collections.id, id)))
    .for('update');
  return known !== undefined;
}

/** What a game's fingerprint was before it was told from those like it. */
const PLAIN = sql`split_part(${games.fingerprint}, ':', 1)`;

/** Puts games where they can be brought back from for a month, and calls off what is asked about them. */
async function deleteGames(owner: Owner, choice: GameChoice, at: Date): Promise<number> {
  const stopped = await database().transaction(async (tx) => {
    const deleted = await tx
      .update(games)
      // the same game may be taken in anew
      .set({ deletedAt: at, fingerprint: sql`${PLAIN} || ':' || gen_random_uuid()` })
      .where(gamesOf(owner, choice))
      .returning({ id: games.id });
    const ids = deleted.map(({ id }) => id);
    const open = await tx
      .update(asks)
      .set({ state: 'cancelled', finishedAt: new Date() })
      .where(
        and(
          // as one value: there may be more than a statement takes
          sql`${asks.gameId} = any(${sql.param(`{${ids.join(',')}}`)}::bigint[])`,
          inArray(asks.state, ['queued', 'running']),
        ),
      )
      .returning();
    return { games: ids.length, open };
  });
  await Promise.all(stopped.open.map((ask) => announceAsk(ask, { cancelled: true })));
  return stopped.games;
}

/** Brings games back; where the same game has been taken in meanwhile, they are copies of it. */
async function restoreGames(owner: Owner, choice: GameChoice): Promise<number> {
  return database().transaction(async (tx) => {
    const restored = await tx
      .update(games)
      .set({ deletedAt: null })
      .where(gamesOf(owner, { deleted: 'yes', ...choice }))
      .returning({ id: games.id });
    const ids = sql.param(`{${restored.map(({ id }) => id).join(',')}}`);
    await tx.execute(
      sql`update games set fingerprint = first.plain
        from (select min(id) as id, split_part(fingerprint, ':', 1) as plain from games
          where id = any(${ids}::bigint[]) group by 2) as first
        where games.id = first.id and not exists (select from games other
          where other.owner_id = ${owner.id} and other.fingerprint = first.plain)`,
    );
    return restored.length;
  });
}

/** Days for which deleted games can be brought back. */
export const KEPT_DAYS = 30;
const REMOVED_AT_ONCE = 200;

/** Lets go of games that were deleted long ago. */
export async function removeDeleted(): Promise<void> {
  for (;;) {
    const some = database()
      .select({ id: games.id })
      .from(games)
      .where(
        and(
          isNotNull(games.deletedAt),
          lt(games.deletedAt, sql`now() - make_interval(days => ${KEPT_DAYS})`),
        ),
      )
      .limit(REMOVED_AT_ONCE);
    const { rowCount } = await database().delete(games).where(inArray(games.id, some));
    if ((rowCount ?? 0) < REMOVED_AT_ONCE) return;
  }
}
