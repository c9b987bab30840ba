import { createReadStream } from 'node:fs';
import { mkdir, readdir, rename, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { findAccount } from '@/server/accounts';
import { database } from '@/server/database';
import { queueImport } from '@/server/imports';
import { logger } from '@/server/log';

/** Where files go inside an account's folder once they have been looked at. */
const TAKEN = 'taken';
const REFUSED = 'refused';

/** What the files looked like when they were last looked at: one that has changed since is still being written. */
export type Seen = Map<string, string>;

/**
 * Takes in what lies in a folder of the operator's: a folder for each account, by its name, with files in it. A file that has stayed
 * as it was since the last look is queued, then moved to `taken` beside it; one that is too large to `refused`. Of several workers one
 * looks at a time.
 */
export async function takeWatched(folder: string, seen: Seen): Promise<void> {
  await database().transaction(async (tx) => {
    const { rows } = await tx.execute<{ mine: boolean }>(
      sql`select pg_try_advisory_xact_lock(hashtextextended('watch folder', 0)) as mine`,
    );
    if (!rows[0]!.mine) return;
    for (const entry of await readdir(folder, { withFileTypes: true }))
      if (entry.isDirectory()) await takeAll(folder, entry.name, seen);
  });
}

async function takeAll(folder: string, name: string, seen: Seen): Promise<void> {
  const log = logger('watch');
  const account = await findAccount(name);
  const place = join(folder, name);
  if (!account) {
    if (isNews(seen, place, 'unknown')) log.warn({ folder: name }, 'no account has this name');
    return;
  }
  for (const entry of await readdir(place, { withFileTypes: true })) {
    // links may lead anywhere
    if (!entry.isFile() || entry.name.startsWith('.')) continue;
    const path = join(place, entry.name);
    const { size, mtimeMs } = await stat(path);
    if (size === 0 || isNews(seen, path, `${size} ${mtimeMs}`)) continue;
    const status = await queueImport(account, entry.name, createReadStream(path));
    if (status === 'tooMuch') return;
    const isRefused = typeof status === 'string';
    await moveTo(join(place, isRefused ? REFUSED : TAKEN), path, entry.name);
    seen.delete(path);
    log.info({ file: entry.name, account: account.id, status: isRefused ? status : 'queued' });
  }
}

/** Whether something looks otherwise than it did; it is remembered. */
function isNews(seen: Seen, what: string, look: string): boolean {
  const isNew = seen.get(what) !== look;
  seen.set(what, look);
  return isNew;
}

/** Under its name, with the time before it where there was one of that name already. */
async function moveTo(folder: string, path: string, name: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const taken = new Set(await readdir(folder));
  await rename(path, join(folder, taken.has(name) ? `${Date.now()} ${name}` : name));
}
