import { randomBytes } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { settings } from './settings';

/** Name of the file in the data folder. */
const SECRET_FILE = 'secret';

/** What sessions are signed with: as the settings say, else a random text that is made once and kept in the data folder. */
export function sessionSecret(): string {
  const { secret, data } = settings();
  if (secret !== null) return secret;
  const path = join(data, SECRET_FILE);
  return read(path) ?? make(path, data);
}

function read(path: string): string | null {
  try {
    return readFileSync(path, 'utf8').trim();
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}

/** Written whole before it has its name, so that of several processes one wins and none reads half of it. */
function make(path: string, folder: string): string {
  mkdirSync(folder, { recursive: true });
  const own = `${path}.${process.pid}`;
  writeFileSync(own, `${randomBytes(32).toString('hex')}\n`, { mode: 0o600 });
  try {
    linkSync(own, path);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  } finally {
    rmSync(own, { force: true });
  }
  return read(path)!;
}
