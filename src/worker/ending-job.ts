import { join } from 'node:path';
import { setsUpTo } from '@/core/endings/sets';
import { buildEndings } from '@/engine/hosts/ending-build';
import { isEndingThere } from '@/engine/hosts/ending-files';
import { endingsFolder } from '@/server/endings';
import { logger } from '@/server/log';
import { settings } from '@/server/settings';
import { alone } from './alone';

/** Makes the ending tables that are not there, as the one of several workers that comes first. */
export async function makeEndings(): Promise<void> {
  const { root, endingPieces: pieces, engines } = settings();
  const folder = endingsFolder();
  const sets = setsUpTo(pieces);
  if (sets.every((set) => isEndingThere(folder, set))) return;
  await alone('ending tables', async () => {
    const started = performance.now();
    const built = await buildEndings(
      {
        module: join(root, 'dist/engine/endings.wasm'),
        thread: join(root, 'dist/ending-thread.mjs'),
      },
      {
        folder,
        pieces,
        threads: engines,
        signal: new AbortController().signal,
        onProgress: () => undefined,
      },
    );
    logger('worker').info({ ...built, wall: performance.now() - started }, 'ending tables made');
  });
}
