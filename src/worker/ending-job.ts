import { fork } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { setsUpTo } from '@/core/endings/sets';
import { isEndingThere } from '@/engine/hosts/ending-files';
import { endingsFolder } from '@/server/endings';
import { settings } from '@/server/settings';
import { alone } from './alone';

/**
 * Makes the ending tables that are not there, as the one of several workers that comes first: in a process of its own, since what that takes is
 * given back in whole only where a process ends.
 */
export async function makeEndings(): Promise<void> {
  const { root, endingPieces } = settings();
  const folder = endingsFolder();
  if (setsUpTo(endingPieces).every((set) => isEndingThere(folder, set))) return;
  await alone('ending tables', async () => {
    const [code] = (await once(fork(join(root, 'dist/ending-process.mjs')), 'exit')) as [
      number | null,
    ];
    if (code !== 0) throw new Error(`The process that makes ending tables ended early (${code})`);
  });
}
