import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { availableParallelism } from 'node:os';
import type { GameRecord } from '@/core/game/record';
import { mainLine } from '@/core/game/tree';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { DEFAULT_SWEEP, settingsText } from '@/core/review/sweep-settings';
import { startEngine } from '@/engine/hosts/node';
import { addAsk } from '@/server/asks';
import { database, databaseUrl, migrateDatabase } from '@/server/database';
import { KnownEvaluations } from '@/server/evaluations';
import { insertGames } from '@/server/insert-games';
import { prepareGame } from '@/server/prepared-game';
import { demoOwner, type Owner } from '@/server/owner';
import { dequeue } from '@/server/queue';
import { settings } from '@/server/settings';
import pg from 'pg';
import { Claims } from '@/worker/claims';
import { EnginePool } from '@/worker/engine-pool';
import { inTurn } from '@/worker/session';
import { runSweep } from '@/worker/sweep-job';
import { ENGINE_FILES } from '../engine-files';
import { withDatabase } from '../serve/serve';
import { report } from './figures';

const SETTINGS = DEFAULT_SWEEP;
const PLIES = 80;

/** How long the default sweep of a game of about 80 plies of each kind takes, with one engine a core and with one. */
export async function benchSweep(): Promise<void> {
  await withDatabase(async () => {
    await migrateDatabase();
    const owner = await demoOwner();
    for (const file of ['harbour-league-2025.pgn', 'lantern-circle-ladder.kifu']) {
      const text = await readFile(join(settings().root, 'demo/games', file), 'utf8');
      const records = [...readGames(text, file.endsWith('pgn') ? 'pgn' : 'kif')].filter(isRead);
      const apart = ({ record }: { record: GameRecord }): number =>
        Math.abs(mainLine(record.tree).length - PLIES);
      const { record } = records.toSorted((a, b) => apart(a) - apart(b))[0]!;
      const all = await sweepWith(availableParallelism(), owner, record);
      const one = await sweepWith(1, owner, record);
      report('  one engine ÷ all of them', `${(one / all).toFixed(2)} × as long`);
    }
  });
}

/** A sweep that no worker of the running app takes; returns its id. */
const asked = (owner: Owner, gameId: number, { tree }: GameRecord): Promise<number> =>
  database().transaction(async (tx) => {
    const ask = (await addAsk(tx, {
      ownerId: owner.id,
      gameId,
      plan: 'sweep',
      settings: settingsText(SETTINGS),
      total: mainLine(tree).length + 1,
    }))!;
    await dequeue(tx, 'sweep', ask.id);
    return ask.id;
  });

/** Seconds of a sweep, with nothing known before. */
async function sweepWith(count: number, owner: Owner, record: GameRecord): Promise<number> {
  const { kind } = record.tree;
  const engines = Array.from({ length: count }, () => startEngine(ENGINE_FILES, { kinds: [kind] }));
  const pool = new EnginePool(await Promise.all(engines));
  const [game] = await database().transaction((tx) =>
    insertGames(tx, owner, [prepareGame(record)], 'bench', true),
  );
  const sweep = await asked(owner, game!.id, record);
  // an engine of its own name: nothing that is known already may be used
  const version = `bench-${process.pid}-${game!.id}`;
  const session = new pg.Client({ connectionString: databaseUrl() });
  await session.connect();
  const claims = new Claims(inTurn(session));
  const started = performance.now();
  await runSweep(sweep, pool, claims, () => version, 'game', new AbortController().signal);
  const wall = performance.now() - started;
  await session.end();
  const known = await KnownEvaluations.load(record, version);
  const found = (await known.found(SETTINGS)).evaluations().filter((one) => one !== null);
  const depths = found.map(({ depth }) => depth).sort((a, b) => a - b);
  const plies = mainLine(record.tree).length;
  report(
    `${kind}, ${plies} plies, ${settingsText(SETTINGS)}, engines: ${count}`,
    `${(wall / 1000).toFixed(1)} s, busy ${((100 * pool.busy) / (wall * count)).toFixed(1)} %`,
  );
  if (count > 1)
    report(
      '  depth of the best move, median; verdicts unsettled',
      `${depths[depths.length >> 1]}; ${found.filter(({ isUnsettled }) => isUnsettled).length} of ${plies}`,
    );
  pool.close();
  return wall / 1000;
}
