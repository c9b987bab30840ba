import { and, asc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { Collection } from '@/contract/collections';
import { database, type Database, type Transaction } from './database';
import type { OwnerRef } from './owner';
import { collectionGames, collections, games } from './schema';

const select = (which: SQL, db: Database | Transaction = database()): Promise<Collection[]> =>
  db
    .select({
      id: collections.id,
      name: collections.name,
      // written out: Drizzle names columns without their table where only one is selected from
      games: sql<number>`(select count(*)::integer from collection_games
        where collection_id = collections.id)`,
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

export interface CollectionChange {
  name?: string | undefined;
  /** Games to be put in and taken out; of those only the owner's count. */
  add: readonly number[];
  remove: readonly number[];
}

/** Changes a collection. */
export async function changeCollection(
  owner: OwnerRef,
  id: number,
  { name, add, remove }: CollectionChange,
): Promise<Collection | 'missing' | 'taken'> {
  return database().transaction(async (tx) => {
    const [known] = await tx
      .select({ id: collections.id })
      .from(collections)
      .where(own(owner, id))
      .for('update');
    if (!known) return 'missing';
    if (name !== undefined) {
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
    }
    if (add.length > 0)
      await tx
        .insert(collectionGames)
        .select(
          tx
            .select({
              collectionId: sql<number>`${id}::bigint`.as('collection_id'),
              gameId: games.id,
            })
            .from(games)
            .where(and(eq(games.ownerId, owner.id), inArray(games.id, [...add]))),
        )
        .onConflictDoNothing();
    if (remove.length > 0)
      await tx
        .delete(collectionGames)
        .where(
          and(eq(collectionGames.collectionId, id), inArray(collectionGames.gameId, [...remove])),
        );
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
