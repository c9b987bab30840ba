import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { availableParallelism } from 'node:os';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { DEFAULT_SWEEP, settingsText } from '@/core/review/sweep-settings';
import { startEngine } from '@/engine/hosts/node';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { insertGames } from '@/server/insert-games';
import { prepareGame } from '@/server/prepared-game';
import { currentOwner } from '@/server/owner';
import { settings } from '@/server/settings';
import { latestSweep, startSweep } from '@/server/sweeps';
import { EnginePool } from '@/worker/engine-pool';
import { runSweep } from '@/worker/sweep-job';
import { ENGINE_FILES } from '../engine-files';
import { withDatabase } from '../serve/serve';
import { report } from './figures';

const SETTINGS = DEFAULT_SWEEP;

/** How much of the time the engines search, with one engine a core, over a game of each kind. */
export async function benchSweep(): Promise<void> {
  await withDatabase(async () => {
    await migrateDatabase();
    const owner = await currentOwner();
    const engines = await Promise.all(
      Array.from({ length: availableParallelism() }, () => startEngine(ENGINE_FILES)),
    );
    const pool = new EnginePool(engines);
    for (const file of ['harbour-league-2025.pgn', 'lantern-circle-ladder.kifu']) {
      const text = await readFile(join(settings().root, 'demo/games', file), 'utf8');
      const records = [...readGames(text, file.endsWith('pgn') ? 'pgn' : 'kif')].filter(isRead);
      const [longest] = records.toSorted(
        (a, b) => b.record.tree.nodes.size - a.record.tree.nodes.size,
      );
      const [game] = await database().transaction((tx) =>
        insertGames(tx, owner, [prepareGame(longest!.record)], 'bench', true),
      );
      const sweep = (await startSweep(owner, game!.id, SETTINGS))!;
      const [busy, started] = [pool.busy, performance.now()];
      // an engine of its own name: nothing that is known already may be used
      const version = `bench-${process.pid}-${game!.id}`;
      await runSweep(sweep.id, pool, () => version, new AbortController().signal);
      const wall = performance.now() - started;
      const { total } = (await latestSweep(owner, game!.id))!;
      report(
        `sweep of ${total} positions, ${settingsText(SETTINGS)}`,
        `${(wall / 1000).toFixed(1)} s`,
      );
      report(
        `  engines busy (${pool.size} of them)`,
        `${((100 * (pool.busy - busy)) / (wall * pool.size)).toFixed(1)} %`,
      );
    }
    pool.close();
    await closeDatabase();
  });
}
