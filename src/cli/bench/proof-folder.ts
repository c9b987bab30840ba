import { cpSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { endingsFolder } from '@/server/endings';

/** A new folder with the tables of the data folder, and nothing that has been proved. */
export async function proofFolder(): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'bektra-proofs-'));
  cpSync(endingsFolder(), folder, {
    recursive: true,
    filter: (path) => !/-|\.proof$/.test(basename(path)),
  });
  return folder;
}
