import { join } from 'node:path';
import { buildEndings } from '@/engine/hosts/ending-build';
import { endingsFolder } from '@/server/endings';
import { logger } from '@/server/log';
import { settings } from '@/server/settings';

/** The worker has gone: its successor goes on behind the files that are done. */
const end = (): void => process.exit(1);
process.once('disconnect', end);

const { root, endingPieces: pieces, engines: threads } = settings();
const started = performance.now();
const built = await buildEndings(
  { module: join(root, 'dist/engine/endings.wasm'), thread: join(root, 'dist/ending-thread.mjs') },
  {
    folder: endingsFolder(),
    pieces,
    threads,
    signal: new AbortController().signal,
    onProgress: () => undefined,
  },
);
logger('worker').info({ ...built, wall: performance.now() - started }, 'ending tables made');
process.off('disconnect', end);
process.disconnect();
