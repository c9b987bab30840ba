import pg from 'pg';
import * as z from 'zod';
import { eventSchema } from '@/contract/events';
import { databaseUrl, pool } from './database';
import { logger } from './log';

const CHANNEL = 'bektra';

/** As it goes from process to process. */
const announcedSchema = eventSchema.extend({ owner: z.string() });
type Announced = z.infer<typeof announcedSchema>;

export async function announce(event: Announced): Promise<void> {
  await pool().query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(event)]);
}

type Listener = (event: Announced) => void;

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
    const event = announcedSchema.safeParse(JSON.parse(payload ?? 'null'));
    if (event.success) for (const listener of listeners) listener(event.data);
  });
  await client.connect();
  await client.query(`listen ${CHANNEL}`);
  await lost;
}
