import { parentPort, workerData } from 'node:worker_threads';
import * as z from 'zod';
import { aloneWith, followLibrary } from '@/server/base-games';
import { indexBase } from '@/server/base-index';
import { closeDatabase } from '@/server/database';
import { othersWait } from '@/server/queue';
import type { Told } from './base-job';

/** So long a base keeps others from being filled. */
const TURN_MS = 10_000;

const { base } = z.object({ base: z.number() }).parse(workerData);
const tell = (told: Told): void => parentPort!.postMessage(told);
const over = performance.now() + TURN_MS;

try {
  await aloneWith(base, async () => {
    await followLibrary(base);
    const isDone = await indexBase(base, async () => {
      tell('progress');
      return performance.now() < over || !(await othersWait('base', base));
    });
    if (!isDone) tell('turn over');
  });
} finally {
  await closeDatabase();
}
