import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { randomSource } from '@/engine/draw';
import { closeDatabase, migrateDatabase } from '@/server/database';
import { demoOwner } from '@/server/owner';
import { readSettings } from '@/server/settings';
import { Cluster } from '../serve/cluster';
import { sweepUnderBlows } from './blows';
import { report } from './figures';

const SETTINGS = { average: { nodes: 100_000 } } as const;
const GAMES = 12;
const SEED = 3;

/** Goes over games of both kinds on a database of its own, while workers are killed, one stands still and the database is started again. */
export async function benchCrashes(): Promise<void> {
  // read anew: what this process asks for later is the database that is made here
  const { root } = readSettings();
  const data = join(root, '.data-test/crashes');
  await rm(data, { recursive: true, force: true });
  const cluster = new Cluster(data);
  process.env.BEKTRA_DATABASE_URL = await cluster.start();
  try {
    await migrateDatabase();
    const records = [];
    for (const file of ['harbour-league-2025.pgn', 'lantern-circle-ladder.kifu']) {
      const text = await readFile(join(root, 'demo/games', file), 'utf8');
      const read = [...readGames(text, file.endsWith('pgn') ? 'pgn' : 'kif')].filter(isRead);
      records.push(...read.slice(0, GAMES / 2).map(({ record }) => record));
    }
    const started = performance.now();
    const after = await sweepUnderBlows(await demoOwner(), records, SETTINGS, {
      workers: 3,
      every: 5000,
      kills: 24,
      freeze: 40_000,
      restartDatabase: async () => {
        await closeDatabase();
        const file = await readFile(join(data, 'postgres/postmaster.pid'), 'utf8');
        process.kill(Number(file.split('\n')[0]), 'SIGKILL');
        while (await cluster.isRunning()) await new Promise((later) => setTimeout(later, 100));
        // where it was before, once what the killed server has left behind is gone
        while (!(await cluster.start().catch(() => null)))
          await new Promise((later) => setTimeout(later, 500));
      },
      random: randomSource(SEED),
      say: (what) => report(`  after ${((performance.now() - started) / 1000).toFixed(0)} s`, what),
    });
    const { games, done, failed, stored, again, different } = after;
    report('games gone over, failed, of', `${done}, ${failed}, ${games}`);
    report('answers stored, and found once more', `${stored}, ${again}`);
    report('games of which something else is said than undisturbed', `${different}`);
  } finally {
    await closeDatabase();
    await cluster.stop();
    await rm(data, { recursive: true, force: true });
  }
}
