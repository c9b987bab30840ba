import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { cp, mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { inTurn } from './in-turn';
import { runCommand } from './run-command';
import { GAME_KINDS } from '@/core/game/ruleset';

const SOURCES = [
  'src',
  'messages',
  'public',
  'package-lock.json',
  'next.config.ts',
  'tsconfig.json',
];

/** A digest of all that the production build depends on. */
async function digestOfSources(root: string): Promise<string> {
  const hash = createHash('sha256');
  const add = async (path: string): Promise<void> => {
    if (!existsSync(path)) return;
    const entries = await readdir(path, { withFileTypes: true }).catch(() => null);
    if (entries === null) {
      hash.update(relative(root, path)).update(await readFile(path));
      return;
    }
    for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1)))
      if (!/\.test\.tsx?$/.test(entry.name)) await add(join(path, entry.name));
  };
  for (const source of SOURCES) await add(join(root, source));
  return hash.digest('hex');
}

/** Puts the compiled search where the pages fetch it. */
export async function publishEngine(root: string): Promise<void> {
  await mkdir(join(root, 'public/engine'), { recursive: true });
  const searches = GAME_KINDS.flatMap((kind) => [`${kind}.wasm`, `${kind}.shared.wasm`]);
  for (const name of [...searches, 'shogi-mates.wasm'])
    await cp(join(root, `dist/engine/${name}`), join(root, `public/engine/${name}`));
}

/** Builds the web app unless the last build was made of the same sources. */
export const buildWeb = (root: string, say: (text: string) => void): Promise<void> =>
  inTurn(
    join(root, '.build-lock'),
    () => say('Another command is building the web app; waiting for it …'),
    () => buildIfStale(root, say),
  );

async function buildIfStale(root: string, say: (text: string) => void): Promise<void> {
  await publishEngine(root);
  const stamp = join(root, '.next/bektra-sources');
  const digest = await digestOfSources(root);
  if (existsSync(stamp) && (await readFile(stamp, 'utf8')) === digest) return;
  say('Building the web app (a minute or two, only after changes) …');
  await runCommand(process.execPath, [join(root, 'node_modules/next/dist/bin/next'), 'build'], {
    cwd: root,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
  });
  await writeFile(stamp, digest);
}
