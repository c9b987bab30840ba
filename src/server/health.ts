import { sql } from 'drizzle-orm';
import { database } from './database';

/** Every worker holds this advisory lock, shared, for as long as it lives. */
export const WORKER_LOCK = 'bektra worker';

export interface Health {
  database: boolean;
  /** A worker lives. */
  worker: boolean;
}

/** Which parts answer. */
export async function healthOf(): Promise<Health> {
  try {
    // a bigint key is kept as two halves
    const { rows } = await database().execute<{ worker: boolean }>(sql`
      select exists (
        select 1 from pg_locks, (select hashtextextended(${WORKER_LOCK}, 0) as key) as wanted
        where locktype = 'advisory' and granted
          and database = (select oid from pg_database where datname = current_database())
          and classid = ((key >> 32) & 4294967295)::oid and objid = (key & 4294967295)::oid
      ) as worker`);
    return { database: true, worker: rows[0]?.worker === true };
  } catch {
    return { database: false, worker: false };
  }
}
