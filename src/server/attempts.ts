import { lt, sql } from 'drizzle-orm';
import { database } from './database';
import { attempts } from './schema';

export interface AttemptLimit {
  most: number;
  /** Of the window in which they are counted. */
  seconds: number;
}

/** No window is longer than this. */
const LONGEST_SECONDS = 3600;

/** Counts an attempt, over all processes at once; false where there have been too many in the window that is open. */
export async function mayTry(key: string, { most, seconds }: AttemptLimit): Promise<boolean> {
  const isOver = sql`${attempts.since} < now() - make_interval(secs => ${seconds})`;
  const [tried] = await database()
    .insert(attempts)
    .values({ key, count: 1 })
    .onConflictDoUpdate({
      target: attempts.key,
      set: {
        count: sql`case when ${isOver} then 1 else ${attempts.count} + 1 end`,
        since: sql`case when ${isOver} then now() else ${attempts.since} end`,
      },
    })
    .returning({ count: attempts.count });
  return tried!.count <= most;
}

/** Lets go of windows that are over. */
export async function forgetAttempts(): Promise<void> {
  await database()
    .delete(attempts)
    .where(lt(attempts.since, sql`now() - make_interval(secs => ${LONGEST_SECONDS})`));
}
