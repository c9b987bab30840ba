import { Logger, run } from 'graphile-worker';
import { sql } from 'drizzle-orm';
import { STRETCH } from '@/contract/library';
import { insertLine } from '@/core/game/edits';
import { applySteps } from '@/core/game/steps';
import { emptyTree, ROOT } from '@/core/game/tree';
import { chess } from '@/core/chess/ruleset';
import { startBatch, findBatch, stopBatch } from '@/server/batches';
import { database, migrateDatabase, pool } from '@/server/database';
import { listGames } from '@/server/library';
import { insertGames } from '@/server/insert-games';
import { prepareGame } from '@/server/prepared-game';
import { demoOwner, type Owner } from '@/server/owner';
import { withDatabase } from '../serve/serve';
import { report } from './figures';

const MANY = 10_000;
const FEW = 10;
/** Jobs whose taking is timed. */
const TAKEN = FEW;
const SETTINGS = { average: { nodes: 1000 } } as const;

/** What a queue of ten thousand games costs: to fill, to look at, and to take a game from, against one of ten. */
export async function benchQueue(): Promise<void> {
  await withDatabase(async () => {
    await migrateDatabase();
    const owner = await demoOwner();
    const stamp = `Queue ${process.pid}`;
    await fill(owner, `${stamp} few`, FEW);
    await fill(owner, `${stamp} many`, MANY);
    const few = await measure(owner, `${stamp} few`);
    const many = await measure(owner, `${stamp} many`);
    report('a game taken from the queue, 10,000 ÷ 10', `× ${(many / few).toFixed(2)}`);
    await database().execute(sql`delete from games where first_player like ${`${stamp}%`}`);
  });
}

async function fill(owner: Owner, name: string, count: number): Promise<void> {
  const first = ['a2a3', 'b2b3', 'c2c3', 'd2d3', 'e2e3', 'f2f3', 'g2g3', 'h2h3'];
  for (let from = 0; from < count; from += 500) {
    const games = Array.from({ length: Math.min(500, count - from) }, (_, index) => {
      const tree = emptyTree('chess', chess.startText);
      const { steps } = insertLine(tree, ROOT, [chess.parseCode(first[index % 8]!)!], () => 1);
      const tags = [{ name: 'White', value: `${name} ${from + index}` }];
      return prepareGame(applySteps({ tree, tags, result: '*', end: null }, steps));
    });
    await database().transaction((tx) => insertGames(tx, owner, games, 'bench', true));
  }
}

/** Milliseconds to take a game from a queue of those with a name. */
async function measure(owner: Owner, name: string): Promise<number> {
  const timed = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    const started = performance.now();
    const result = await work();
    report(`${name}: ${what}`, `${(performance.now() - started).toFixed(1)} ms`);
    return result;
  };
  const filter = { text: name };
  const batch = (await timed('queued', () =>
    startBatch(owner, { ...filter, onlyNew: true }, SETTINGS),
  ))!;
  await timed('progress', () => findBatch(owner, batch.id));
  await timed('list', () => listGames(owner, filter, { count: STRETCH }));
  const started = performance.now();
  let taken = 0;
  const runner = await run({
    pgPool: pool(),
    concurrency: 1,
    noHandleSignals: true,
    logger: new Logger(() => () => undefined),
    parsedCronItems: [],
    taskList: {
      batch: () => {
        if (++taken === TAKEN) void runner.stop();
      },
    },
  });
  await runner.promise;
  const each = (performance.now() - started) / TAKEN;
  report(`${name}: a game taken`, `${each.toFixed(1)} ms`);
  await stopBatch(owner, batch.id);
  return each;
}
