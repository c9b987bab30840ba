import { once } from 'node:events';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { announceBase } from '@/server/bases';
import { settings } from '@/server/settings';

const MOST_MEGABYTES = 1536;

/**
 * Brings a base up to date with the library that it follows, and sorts those of its games by position that can't be asked for yet: on a
 * thread of its own, since it takes all of one. Each step is a transaction, so it can be ended at any time and goes on behind it.
 */
export async function fillBase(id: number, signal: AbortSignal): Promise<void> {
  signal.throwIfAborted();
  const thread = new Worker(join(settings().root, 'dist/base-thread.mjs'), {
    workerData: { base: id },
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  });
  const end = (): void => void thread.terminate();
  signal.addEventListener('abort', end, { once: true });
  thread.on('message', () => void announceBase(id).catch(() => undefined));
  try {
    await once(thread, 'exit');
    signal.throwIfAborted();
  } finally {
    signal.removeEventListener('abort', end);
  }
  await announceBase(id);
}
