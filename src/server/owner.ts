import { eq } from 'drizzle-orm';
import { database } from './database';
import { owners } from './schema';

export interface Owner {
  id: string;
  playerName: string;
}

/** The one owner there is until accounts come; made by the first migration. */
const DEMO_OWNER_ID = '00000000-0000-4000-8000-000000000001';

/** Who is asking. Every query is bound to this; accounts will replace it and nothing else. */
export async function currentOwner(): Promise<Owner> {
  const [owner] = await database().select().from(owners).where(eq(owners.id, DEMO_OWNER_ID));
  if (!owner) throw new Error('the demo owner is missing: run ./bektra start');
  return owner;
}
