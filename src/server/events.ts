import pg from 'pg';
import * as z from 'zod';
import { databaseUrl, pool } from './database';
import { logger } from './log';

const CHANNEL = 'bektra';

/** Something changed; who wants to know more asks for it. */
const eventSchema = z.object({
  owner: z.string(),
  type: z.enum(['sweep', 'import', 'game', 'study']),
  id: z.number(),
  gameId: z.number().optional(),
  cancelled: z.boolean().optional(),
  /** Of a study: it is over. */
  done: z.boolean().optional(),
});
export type ServerEvent = z.infer<typeof eventSchema>;

export async function announce(event: ServerEvent): Promise<void> {
  await pool().query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(event)]);
}

type Listener = (event: ServerEvent) => void;

const store = globalThis as { bektraListeners?: Set<Listener> };

/** Hears all events from now on, over one connection a process; returns what ends it. */
export function listen(listener: Listener): () => void {
  if (!store.bektraListeners) {
    store.bektraListeners = new Set();
    void keepListening(store.bektraListeners);
  }
  const listeners = store.bektraListeners;
  listeners.add(listener);
  return () => listeners.delete(listener);
}

const RETRY_MS = 1000;

async function keepListening(listeners: Set<Listener>): Promise<void> {
  for (;;) {
    try {
      await listenOnce(listeners);
    } catch (error) {
      logger('events').warn({ err: error }, 'listening failed; trying again');
    }
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS).unref());
  }
}

async function listenOnce(listeners: Set<Listener>): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl() });
  const lost = new Promise<void>((resolve) => {
    client.on('error', () => resolve());
    client.on('end', () => resolve());
  });
  client.on('notification', ({ payload }) => {
    const event = eventSchema.safeParse(JSON.parse(payload ?? 'null'));
    if (event.success) for (const listener of listeners) listener(event.data);
  });
  await client.connect();
  await client.query(`listen ${CHANNEL}`);
  await lost;
}
