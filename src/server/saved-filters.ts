import { and, asc, eq } from 'drizzle-orm';
import type { SavedFilter } from '@/contract/library';
import { database } from './database';
import type { OwnerRef } from './owner';
import { savedFilters } from './schema';

const COLUMNS = { id: savedFilters.id, name: savedFilters.name, query: savedFilters.query };

export const listFilters = (owner: OwnerRef): Promise<SavedFilter[]> =>
  database()
    .select(COLUMNS)
    .from(savedFilters)
    .where(eq(savedFilters.ownerId, owner.id))
    .orderBy(asc(savedFilters.name));

/** Keeps a filter under a name, in place of the one that had it. */
export async function saveFilter(
  owner: OwnerRef,
  name: string,
  query: string,
): Promise<SavedFilter> {
  const [saved] = await database()
    .insert(savedFilters)
    .values({ ownerId: owner.id, name, query })
    .onConflictDoUpdate({
      target: [savedFilters.ownerId, savedFilters.name],
      set: { query },
    })
    .returning(COLUMNS);
  return saved!;
}

/** False where there is none. */
export async function removeFilter(owner: OwnerRef, id: number): Promise<boolean> {
  const removed = await database()
    .delete(savedFilters)
    .where(and(eq(savedFilters.ownerId, owner.id), eq(savedFilters.id, id)))
    .returning({ id: savedFilters.id });
  return removed.length > 0;
}
