import { once } from 'node:events';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { announceBase } from '@/server/bases';
import { database } from '@/server/database';
import { enqueueBase } from '@/server/queue';
import { settings } from '@/server/settings';

const MOST_MEGABYTES = 1536;

/** What the thread says: there is more to ask, or others have waited long enough and something is left to do. */
export type Told = 'progress' | 'turn over';

/**
 * Brings a base up to date with the library that it follows, and sorts those of its games by position that can't be asked for yet: on a
 * thread of its own, since it takes all of one. Each step is a transaction, so it can be ended at any time and goes on behind it. Bases
 * that take long let others have a turn.
 */
export async function fillBase(id: number, signal: AbortSignal): Promise<void> {
  signal.throwIfAborted();
  const thread = new Worker(join(settings().root, 'dist/base-thread.mjs'), {
    workerData: { base: id },
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  });
  const end = (): void => void thread.terminate();
  signal.addEventListener('abort', end, { once: true });
  let isTurnOver = false;
  thread.on('message', (told: Told) => {
    isTurnOver ||= told === 'turn over';
    void announceBase(id).catch(() => undefined);
  });
  try {
    await once(thread, 'exit');
    signal.throwIfAborted();
  } finally {
    signal.removeEventListener('abort', end);
  }
  if (isTurnOver) await enqueueBase(database(), id, true);
  await announceBase(id);
}
