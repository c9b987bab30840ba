import { and, eq, isNull, sql } from 'drizzle-orm';
import { database } from './database';
import { owners } from './schema';

/** An account: whoever games belong to. Every query is bound to one. */
export interface Owner {
  id: string;
  /** By which others find the account. */
  name: string;
  /** Which player of the games is the owner themselves; null: nobody has said yet. */
  playerId: number | null;
}

/** What queries are bound by. */
export type OwnerRef = Pick<Owner, 'id'>;

/** The account whose games are the made-up ones; made by the first migration, without a password. */
export const DEMO_OWNER_ID = '00000000-0000-4000-8000-000000000001';

/** The columns of an owner. */
export const OWNER = {
  id: owners.id,
  name: owners.name,
  // written out: Drizzle names columns without their table where only one is selected from
  playerId: sql<
    number | null
  >`(select players.id from players where players.owner_id = owners.id and players.is_self)`.mapWith(
    (id: string | null) => (id === null ? null : Number(id)),
  ),
};

/** The account of an id, unless it has been ended. */
export async function findOwner(id: string): Promise<Owner | null> {
  const [owner] = await database()
    .select(OWNER)
    .from(owners)
    .where(and(eq(owners.id, id), isNull(owners.closedAt)));
  return owner ?? null;
}

/** @throws Error before the first migration */
export async function demoOwner(): Promise<Owner> {
  const owner = await findOwner(DEMO_OWNER_ID);
  if (!owner) throw new Error('the demo account is missing: run ./bektra start');
  return owner;
}
