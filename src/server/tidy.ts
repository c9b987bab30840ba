import { lt, sql } from 'drizzle-orm';
import { removeClosed } from './accounts';
import { forgetAttempts } from './attempts';
import { database } from './database';
import { forgetBrokenUploads } from './imports';
import { sessions } from './schema';

/** Lets go of what nobody will ask for again: accounts that have been ended, uploads that broke off, sessions and counts of attempts that are over. */
export async function tidy(): Promise<void> {
  await removeClosed();
  await forgetBrokenUploads();
  await forgetAttempts();
  await database()
    .delete(sessions)
    .where(lt(sessions.expiresAt, sql`now()`));
}
