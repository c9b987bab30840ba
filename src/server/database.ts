import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { runMigrations } from 'graphile-worker';
import pg from 'pg';
import { logger } from './log';
import * as schema from './schema';
import { settings } from './settings';

export type Database = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/** Written by the front door when it starts the private cluster. */
export const CONNECTION_FILE = 'database-url';

/**
 * @throws Error when no database is configured and the private one has not been started
 */
export function databaseUrl(): string {
  const { databaseUrl: given, data } = settings();
  if (given) return given;
  const file = join(data, CONNECTION_FILE);
  if (!existsSync(file))
    throw new Error('The database is not running. Start Bektra with ./bektra start.');
  return readFileSync(file, 'utf8').trim();
}

/** One pool a process; kept on globalThis so that the development server's reloads don't open new ones. */
const store = globalThis as { bektraPool?: pg.Pool; bektraDatabase?: Database };

/** To open one costs as much as ten questions, and many are opened at once when many people ask. */
const IDLE_MINUTES = 10;

export function pool(): pg.Pool {
  if (!store.bektraPool) {
    const created = new pg.Pool({
      connectionString: databaseUrl(),
      max: 20,
      idleTimeoutMillis: IDLE_MINUTES * 60_000,
    });
    created.on('error', (error) =>
      logger('database').error({ err: error }, 'idle connection lost'),
    );
    created.on('connect', (client) =>
      client.on('error', (error) => logger('database').error({ err: error }, 'connection lost')),
    );
    store.bektraPool = created;
  }
  return store.bektraPool;
}

export const database = (): Database => (store.bektraDatabase ??= drizzle(pool(), { schema }));

/** A query that is prepared with the first use and planned once a connection. @param prepare made by Drizzle, with a name of its own */
export function planned<Query>(prepare: () => Query): () => Query {
  let known: Query | null = null;
  return () => (known ??= prepare());
}

/** Brings the schema up to date; safe to run at every start. */
export async function migrateDatabase(): Promise<void> {
  await migrate(database(), { migrationsFolder: join(settings().root, 'drizzle') });
  await runMigrations({ pgPool: pool() });
}

export async function closeDatabase(): Promise<void> {
  const open = store.bektraPool;
  delete store.bektraPool;
  delete store.bektraDatabase;
  await open?.end();
}
