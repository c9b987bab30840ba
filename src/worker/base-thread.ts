import { parentPort, workerData } from 'node:worker_threads';
import * as z from 'zod';
import { followLibrary } from '@/server/base-games';
import { indexBase } from '@/server/base-index';
import { closeDatabase } from '@/server/database';

const { base } = z.object({ base: z.number() }).parse(workerData);
const port = parentPort!;

try {
  await followLibrary(base);
  await indexBase(base, () => Promise.resolve(port.postMessage('progress')));
} finally {
  await closeDatabase();
}
