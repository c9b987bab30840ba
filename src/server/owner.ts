import { eq } from 'drizzle-orm';
import { database } from './database';
import { owners } from './schema';

/** An account: whoever games belong to. Every query is bound to one. */
export interface Owner {
  id: string;
  /** By which others find the account. */
  name: string;
  /** Name by which the owner's own games are known. */
  playerName: string;
}

/** What queries are bound by. */
export type OwnerRef = Pick<Owner, 'id'>;

/** The account whose games are the made-up ones; made by the first migration, without a password. */
export const DEMO_OWNER_ID = '00000000-0000-4000-8000-000000000001';

/** The columns of an owner. */
export const OWNER = { id: owners.id, name: owners.name, playerName: owners.playerName };

/** @throws Error before the first migration */
export async function demoOwner(): Promise<Owner> {
  const [owner] = await database().select(OWNER).from(owners).where(eq(owners.id, DEMO_OWNER_ID));
  if (!owner) throw new Error('the demo account is missing: run ./bektra start');
  return owner;
}
