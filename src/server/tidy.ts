import { lt, sql } from 'drizzle-orm';
import { forgetAttempts } from './attempts';
import { database } from './database';
import { forgetBrokenUploads } from './imports';
import { sessions } from './schema';

/** Lets go of what nobody will ask for again: uploads that broke off, sessions and counts of attempts that are over. */
export async function tidy(): Promise<void> {
  await forgetBrokenUploads();
  await forgetAttempts();
  await database()
    .delete(sessions)
    .where(lt(sessions.expiresAt, sql`now()`));
}
