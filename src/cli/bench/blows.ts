import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { isDeepStrictEqual } from 'node:util';
import { sql } from 'drizzle-orm';
import { sweepGame } from '@/core/ask/sweep-game';
import type { GameRecord } from '@/core/game/record';
import { findingsOfSweep } from '@/core/review/findings';
import type { SweepSettings } from '@/core/review/sweep-settings';
import { loadSearch } from '@/engine/hosts/node';
import { findBatch, startBatch } from '@/server/batches';
import { database } from '@/server/database';
import { findingsOf } from '@/server/findings';
import { findGame } from '@/server/games';
import { insertGames } from '@/server/insert-games';
import type { Owner } from '@/server/owner';
import { prepareGame } from '@/server/prepared-game';
import { askHere } from '../ask-here';
import { ENGINE_FILES } from '../engine-files';

export interface Blows {
  workers: number;
  /** Milliseconds from one worker that is killed to the next, and how many are. */
  every: number;
  kills: number;
  /** Milliseconds for which a worker stands still, longer than it takes to be given up; null: none does. */
  freeze: number | null;
  /** Stops the database and starts it again, in the middle. */
  restartDatabase: (() => Promise<void>) | null;
  /** In [0, 1). */
  random: () => number;
  say(what: string): void;
}

export interface Aftermath {
  games: number;
  done: number;
  failed: number;
  /** Answers that are stored, and how many others were found once more and left aside. */
  stored: number;
  again: number;
  /** Games of which something else is said than one engine says that nobody disturbs. */
  different: number;
}

const wait = (milliseconds: number): Promise<void> =>
  new Promise((later) => setTimeout(later, milliseconds));
const isGone = ({ exitCode, signalCode }: ChildProcess): boolean =>
  exitCode !== null || signalCode !== null;

/** Worker processes that are begun anew when they end, as the front door does it. */
class Workers {
  private readonly all: ChildProcess[] = [];
  private isOver = false;

  constructor(count: number) {
    for (let place = 0; place < count; place++) this.begin(place);
  }

  private begin(place: number): void {
    const worker = spawn(process.execPath, ['dist/worker.mjs'], {
      env: { ...process.env, BEKTRA_ENGINES: '1', BEKTRA_LOG: 'silent' },
      stdio: 'ignore',
    });
    this.all[place] = worker;
    worker.once('exit', () => setTimeout(() => this.isOver || this.begin(place), 500));
  }

  /** One that runs. */
  private any(random: () => number): ChildProcess {
    const running = this.all.filter((worker) => !isGone(worker));
    return running[Math.floor(random() * running.length)] ?? this.all[0]!;
  }

  kill(random: () => number): void {
    this.any(random).kill('SIGKILL');
  }

  async freeze(random: () => number, milliseconds: number): Promise<void> {
    const worker = this.any(random);
    worker.kill('SIGSTOP');
    await wait(milliseconds);
    worker.kill('SIGCONT');
  }

  async end(): Promise<void> {
    this.isOver = true;
    await Promise.all(
      this.all.map(async (worker) => {
        if (isGone(worker)) return;
        worker.kill('SIGKILL');
        await once(worker, 'exit');
      }),
    );
  }
}

/** Goes over games while workers are killed at random, one stands still, and the database is started again. */
export async function sweepUnderBlows(
  owner: Owner,
  records: readonly GameRecord[],
  settings: SweepSettings,
  blows: Blows,
): Promise<Aftermath> {
  const inserted = await database().transaction((tx) =>
    insertGames(tx, owner, records.map(prepareGame), 'blows', true),
  );
  const ids = inserted.map(({ id }) => id);
  const { rows: before } = await database().execute<{ last: number }>(
    sql`select coalesce(max(id), 0)::int as last from evaluations`,
  );
  const batch = (await startBatch(owner, { ids, onlyNew: false }, settings))!;
  const workers = new Workers(blows.workers);
  try {
    let frozen: Promise<void> = Promise.resolve();
    for (let kill = 0; kill < blows.kills; kill++) {
      await wait(blows.every * (0.5 + blows.random()));
      blows.say(`a worker is killed (${kill + 1})`);
      workers.kill(blows.random);
      if (kill === Math.floor(blows.kills / 3) && blows.freeze !== null) {
        blows.say('a worker stands still');
        frozen = workers.freeze(blows.random, blows.freeze);
      }
      if (kill === Math.floor((2 * blows.kills) / 3) && blows.restartDatabase) {
        blows.say('the database is started again');
        await blows.restartDatabase();
      }
    }
    await frozen;
    for (let before = -1; ; await wait(2000)) {
      const { state, done } = (await findBatch(owner, batch.id))!;
      if (state === 'done') break;
      if (done !== before) blows.say(`${done} of ${ids.length} games are done`);
      before = done;
    }
  } finally {
    await workers.end();
  }
  const { done, failed } = (await findBatch(owner, batch.id))!;
  // what is found once more takes a number and is left aside
  const { rows } = await database().execute<{ stored: number; numbers: number }>(
    sql`select count(*)::int as stored, (max(id) - ${before[0]!.last})::int as numbers from evaluations where id > ${before[0]!.last}`,
  );
  const { stored, numbers } = rows[0]!;
  return {
    games: ids.length,
    done,
    failed,
    stored,
    again: numbers - stored,
    different: await countDifferent(owner, ids, settings),
  };
}

async function countDifferent(
  owner: Owner,
  ids: readonly number[],
  settings: SweepSettings,
): Promise<number> {
  let different = 0;
  for (const id of ids) {
    const game = (await findGame(owner, id))!;
    const search = await loadSearch(ENGINE_FILES, game.record.tree.kind);
    const found = await sweepGame(game.record, settings)(askHere(search), () => undefined);
    const said = (await findingsOf(owner, game))?.findings;
    if (!isDeepStrictEqual(said, findingsOfSweep(game.record, found))) different++;
  }
  return different;
}
