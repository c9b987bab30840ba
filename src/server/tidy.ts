import { lt, sql } from 'drizzle-orm';
import { removeClosed } from './accounts';
import { forgetAttempts } from './attempts';
import { removeDeleted } from './change-games';
import { database } from './database';
import { forgetFailures } from './import-failures';
import { forgetBrokenUploads } from './imports';
import { sessions } from './schema';

/** Lets go of what nobody will ask for again: accounts that have been ended, games that were deleted a month ago, uploads that broke off, sessions and counts of attempts that are over. */
export async function tidy(): Promise<void> {
  await removeClosed();
  await removeDeleted();
  await forgetBrokenUploads();
  await forgetFailures();
  await forgetAttempts();
  await database()
    .delete(sessions)
    .where(lt(sessions.expiresAt, sql`now()`));
}
