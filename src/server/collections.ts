import { and, asc, eq, sql, type SQL } from 'drizzle-orm';
import type { Collection } from '@/contract/collections';
import { database, type Database, type Transaction } from './database';
import type { OwnerRef } from './owner';
import { collections } from './schema';

const select = (which: SQL, db: Database | Transaction = database()): Promise<Collection[]> =>
  db
    .select({
      id: collections.id,
      name: collections.name,
      // written out: Drizzle names columns without their table where only one is selected from
      games: sql<number>`(select count(*)::integer from collection_games
        join games on games.id = game_id and games.deleted_at is null where collection_id = collections.id)`,
    })
    .from(collections)
    .where(which)
    .orderBy(asc(collections.name));

/** An owner's collections by name. */
export const listCollections = (owner: OwnerRef): Promise<Collection[]> =>
  select(eq(collections.ownerId, owner.id));

const own = (owner: OwnerRef, id: number): SQL =>
  and(eq(collections.ownerId, owner.id), eq(collections.id, id))!;

/** Makes a collection; null where there is one of that name. */
export async function makeCollection(owner: OwnerRef, name: string): Promise<Collection | null> {
  const [made] = await database()
    .insert(collections)
    .values({ ownerId: owner.id, name })
    .onConflictDoNothing()
    .returning({ id: collections.id });
  return made ? { id: made.id, name, games: 0 } : null;
}

/** Gives a collection another name. */
export async function renameCollection(
  owner: OwnerRef,
  id: number,
  name: string,
): Promise<Collection | 'missing' | 'taken'> {
  return database().transaction(async (tx) => {
    const [known] = await tx
      .select({ id: collections.id })
      .from(collections)
      .where(own(owner, id))
      .for('update');
    if (!known) return 'missing';
    const others = await tx.$count(
      collections,
      and(
        eq(collections.ownerId, owner.id),
        eq(collections.name, name),
        sql`${collections.id} <> ${id}`,
      ),
    );
    if (others > 0) return 'taken';
    await tx.update(collections).set({ name }).where(own(owner, id));
    const [row] = await select(own(owner, id), tx);
    return row!;
  });
}

/** Takes a collection away; its games stay. False where there is none. */
export async function removeCollection(owner: OwnerRef, id: number): Promise<boolean> {
  const removed = await database()
    .delete(collections)
    .where(own(owner, id))
    .returning({ id: collections.id });
  return removed.length > 0;
}
