import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { askHere } from '@/cli/ask-here';
import { sweepGame } from '@/core/ask/sweep-game';
import { setsUpTo } from '@/core/endings/sets';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { isEndingThere } from '@/engine/hosts/ending-files';
import { loadSearch } from '@/engine/hosts/node';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { findingsFrom } from '@/core/review/findings';
import { readSettingsText } from '@/core/review/sweep-settings';
import { KnownEvaluations } from '@/server/evaluations';
import { findBatch, startBatch, stopBatch } from '@/server/batches';
import { findingsOf } from '@/server/findings';
import { findGame } from '@/server/games';
import { insertGames } from '@/server/insert-games';
import { queued } from '../support/imports';
import { cancelImport, findImport } from '@/server/imports';
import { prepareGame } from '@/server/prepared-game';
import { demoOwner, type Owner } from '@/server/owner';
import { cancelSweep, latestSweep, startSweep } from '@/server/sweeps';
import { useOwnDatabase } from '../support/database';

const SETTINGS = { depth: 7, lines: 2 };

const newWorker = (own: NodeJS.Dict<string> = {}): ChildProcess =>
  spawn(process.execPath, ['dist/worker.mjs'], {
    env: { ...process.env, BEKTRA_LOG: 'silent', BEKTRA_ENGINES: '2', ...own },
    stdio: 'ignore',
  });

/** Those that end with the test that started them. */
let workers: ChildProcess[] = [];
function startWorker(own: NodeJS.Dict<string> = {}): ChildProcess {
  const worker = newWorker(own);
  workers.push(worker);
  return worker;
}

const until = async (test: () => Promise<boolean>, seconds: number): Promise<number> => {
  const started = performance.now();
  while (!(await test())) {
    if (performance.now() - started > seconds * 1000) throw new Error(`not within ${seconds} s`);
    await new Promise((next) => setTimeout(next, 50));
  }
  return (performance.now() - started) / 1000;
};

const killed = (worker: ChildProcess, signal: NodeJS.Signals): Promise<void> =>
  new Promise((done) => {
    if (worker.exitCode !== null || worker.signalCode !== null) return done();
    worker.once('exit', () => done());
    worker.kill(signal);
  });

const text = (value: string): Uint8Array => new TextEncoder().encode(value);

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('the worker', { timeout: 240_000 }, () => {
  let owner: Owner;
  beforeAll(async () => {
    await useOwnDatabase('worker_test');
    await migrateDatabase();
    owner = await demoOwner();
  });
  afterEach(async () => {
    await Promise.all(workers.map((worker) => killed(worker, 'SIGKILL')));
    workers = [];
  });
  afterAll(closeDatabase);

  /** Stores the longest game of a demo file, or the one at `index`. */
  async function demoGame(file: string, index?: number): Promise<number> {
    const text = readFileSync(`demo/games/${file}`, 'utf8');
    const records = [...readGames(text, file.endsWith('pgn') ? 'pgn' : 'kif')].filter(isRead);
    const [{ record: longest }] = records.toSorted(
      (a, b) => b.record.tree.nodes.size - a.record.tree.nodes.size,
    ) as [(typeof records)[number]];
    const [insertion] = await database().transaction((tx) =>
      insertGames(
        tx,
        owner,
        [prepareGame(index === undefined ? longest : records[index]!.record)],
        file,
        true,
      ),
    );
    return insertion!.id;
  }
  /** Ends all that others are asking of the database, as a restart of it does. */
  async function cutOff(): Promise<void> {
    await database().execute(
      sql`select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
    );
  }
  const sweepOf = async (game: number) => (await latestSweep(owner, game))!;

  it.each([
    ['harbour-league-2025.pgn', { average: { nodes: 20_000 } }],
    ['lantern-circle-ladder.kifu', SETTINGS],
  ] as const)(
    'killed in the middle of a sweep of %s, is replaced, and nothing differs',
    async (file, how) => {
      const id = await demoGame(file);
      const first = startWorker();
      await startSweep(owner, id, how);
      await until(async () => (await sweepOf(id)).done >= 4, 60);
      await killed(first, 'SIGKILL');
      const { done: before, state } = await sweepOf(id);
      expect(state).toBe('running');

      startWorker();
      const seconds = await until(async () => (await sweepOf(id)).done > before, 30);
      expect(seconds).toBeLessThan(30);
      await until(async () => (await sweepOf(id)).state === 'done', 120);

      const game = (await findGame(owner, id))!;
      const { version, settings } = await sweepOf(id);
      const known = await KnownEvaluations.load(game.record, version!);
      const stored = (await known.found(readSettingsText(settings))).evaluations();
      // and what is said of the game is kept with it
      const { findings } = (await findingsOf(owner, game))!;
      expect(findings).toEqual(findingsFrom(game.record, stored));
      const { rows } = await database().execute(
        sql`select key, history, settings, only_move, count(*)::int as count from evaluations where engine = ${version} group by 1, 2, 3, 4 having count(*) > 1`,
      );
      expect(rows).toEqual([]);

      const search = await loadSearch({ modules: resolve('dist/engine') }, game.record.tree.kind);
      const found = await sweepGame(game.record, how)(askHere(search), () => undefined);
      expect(stored).toEqual(found.evaluations());
    },
  );

  it('is told to stop a sweep, and does so at once', async () => {
    const id = await demoGame('lakeside-rapid.pgn', 1);
    startWorker();
    await startSweep(owner, id, { depth: 60, lines: 3 });
    await until(async () => (await sweepOf(id)).state === 'running', 30);
    await new Promise((next) => setTimeout(next, 500));
    const { id: sweep } = await sweepOf(id);
    expect(await cancelSweep(owner, sweep)).toBe(true);
    expect((await sweepOf(id)).state).toBe('cancelled');
    // the engines are free again: another sweep gets on
    await startSweep(owner, id, { depth: 2, lines: 1 });
    await until(async () => (await sweepOf(id)).state === 'done', 20);
  });

  it('stops politely in the middle of a sweep, which goes on later', async () => {
    const id = await demoGame('lakeside-rapid.pgn');
    const worker = startWorker();
    await startSweep(owner, id, { depth: 10, lines: 3 });
    await until(async () => (await sweepOf(id)).done >= 3, 60);
    await killed(worker, 'SIGTERM');
    expect((await sweepOf(id)).state).toBe('running');
    const { done } = await sweepOf(id);
    startWorker();
    await until(async () => (await sweepOf(id)).done > done, 30);
  });

  it('goes over one game that is asked for now, while a batch is at as many as it may', async () => {
    const ids: number[] = [];
    for (let index = 0; index < 6; index++) ids.push(await demoGame('lakeside-rapid.pgn', index));
    const [wanted, ...many] = ids;
    const batch = (await startBatch(
      owner,
      { ids: many, onlyNew: false },
      { nodes: 1_000_000, lines: 1 },
    ))!;
    const state = async () => (await findBatch(owner, batch.id))!;
    startWorker();
    await until(async () => (await state()).running === 4, 60);
    await startSweep(owner, wanted!, { nodes: 2000, lines: 1 });
    await until(async () => (await sweepOf(wanted!)).state === 'done', 60);
    expect(await state()).toMatchObject({ running: 4, done: 0 });
    await stopBatch(owner, batch.id);
  });

  it('one sweep a game at a time', async () => {
    const id = await demoGame('lakeside-rapid.pgn', 3);
    const [a, b] = await Promise.all([
      startSweep(owner, id, SETTINGS),
      startSweep(owner, id, SETTINGS),
    ]);
    expect(a!.id).toBe(b!.id);
    await cancelSweep(owner, a!.id);
  });

  it.each([
    ['killed', (worker: ChildProcess) => killed(worker, 'SIGKILL')],
    ['cut off from the database', () => cutOff()],
  ])(
    'an import %s half-way goes on where it was, and no game is there twice',
    async (how, fall) => {
      const event = `bulk ${how}`;
      const games = Array.from(
        { length: 3000 },
        (_, index) =>
          `[Event "${event}"]\n[White "${how}"]\n[Round "${index}"]\n\n1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 *\n`,
      ).join('\n');
      let worker = startWorker();
      const { id } = await queued(owner, 'bulk.pgn', [text(games)]);
      await until(async () => (await findImport(owner, id))!.read >= 100, 60);
      await fall(worker);
      const { read } = (await findImport(owner, id))!;
      expect(read).toBeLessThan(3000);
      await until(async () => {
        // as whoever started it does
        if (worker.exitCode !== null || worker.signalCode !== null) worker = startWorker();
        return (await findImport(owner, id))!.state === 'done';
      }, 90);
      expect(await findImport(owner, id)).toMatchObject({
        read: 3000,
        kept: 3000,
        duplicates: 0,
        failed: 0,
      });
      const { rows } = await database().execute(
        sql`select count(*)::int as count from games where event = ${event}`,
      );
      expect(rows[0]).toEqual({ count: 3000 });
    },
  );

  it('an import can be stopped; what it took in stays', async () => {
    const { id } = await queued(owner, 'later.pgn', [text('[Event "later"]\n\n1. e4 *\n')]);
    expect(await cancelImport(owner, id)).toBe(true);
    startWorker();
    await new Promise((next) => setTimeout(next, 1500));
    expect(await findImport(owner, id)).toMatchObject({ state: 'cancelled', kept: 0 });
  });

  it('has ending tables made by a process that ends with it, and the next one makes the rest', async () => {
    const data = mkdtempSync(join(tmpdir(), 'worker-endings-'));
    const childrenOf = ({ pid }: ChildProcess): string[] =>
      readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').split(' ').filter(Boolean);
    const isThere = (set: string): boolean => isEndingThere(join(data, 'endings'), set);
    const isRunning = (pid: string): boolean => existsSync(`/proc/${pid}/exe`);

    const first = startWorker({ BEKTRA_DATA: data, BEKTRA_ENDING_PIECES: '4' });
    await until(() => Promise.resolve(setsUpTo(4).some(isThere)), 30);
    const makers = childrenOf(first);
    expect(makers).toHaveLength(1);
    await killed(first, 'SIGKILL');
    await until(() => Promise.resolve(!makers.some(isRunning)), 5);
    expect(setsUpTo(4).every(isThere)).toBe(false);

    const second = startWorker({ BEKTRA_DATA: data, BEKTRA_ENDING_PIECES: '3' });
    await until(() => Promise.resolve(setsUpTo(3).every(isThere)), 30);
    await until(() => Promise.resolve(childrenOf(second).length === 0), 5);
    rmSync(data, { recursive: true });
  });

  describe('of files', () => {
    let worker: ChildProcess;
    beforeAll(() => {
      worker = newWorker({ BEKTRA_ENGINES: '1' });
    });
    afterAll(() => killed(worker, 'SIGKILL'));

    const importing = async (name: string, bytes: Uint8Array, copies = false) => {
      const { id } = await queued(owner, name, [bytes], { asCopies: copies });
      await until(
        async () => !['queued', 'running'].includes((await findImport(owner, id))!.state),
        60,
      );
      return (await findImport(owner, id))!;
    };

    it('takes in good games beside bad ones, with their places', async () => {
      const status = await importing(
        'mixed.pgn',
        text(
          '[Event "m1"]\n[Result "1-0"]\n\n1. e4 0-1\n\n[Event "m2"]\n\n1. e4 e5 2. Ke3 *\n\n[Event "m3"]\n\n1. d4 *\n',
        ),
        true,
      );
      expect(status).toMatchObject({ state: 'done', read: 3, kept: 2, failed: 1, duplicates: 0 });
      expect(status.problems[0]).toMatchObject({
        code: 'move.illegal',
        place: { line: 8, column: 13, game: 2 },
      });
      // what the reader decided about one that went in
      expect(status.notes).toMatchObject([{ place: { line: 1, game: 1 } }]);
      expect(status.gameIds).toHaveLength(2);
    });

    it.each([
      ['empty.pgn', new Uint8Array(), 'file.empty'],
      [
        'picture.pgn',
        new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13]),
        'file.binary',
      ],
      ['letter.txt', text('Dear Mirela,\nit was a good game.\n'), 'file.format'],
    ])('%s: says what is wrong', async (name, bytes, code) => {
      const status = await importing(name, bytes);
      expect(status).toMatchObject({ state: 'failed', kept: 0 });
      expect(status.problems[0]).toMatchObject({ code });
    });

    it('reads legacy encodings', async () => {
      const latin = new Uint8Array([...text('[White "J'), 0xfc, ...text('rgen"]\n\n1. b4 *\n')]);
      const status = await importing('latin.pgn', latin, true);
      const game = (await findGame(owner, status.gameIds[0]!))!;
      expect(game.record.tags).toEqual([{ name: 'White', value: 'Jürgen' }]);
      const { encodeShiftJis } = await import('@/core/notation/encoding');
      const kif = encodeShiftJis('手合割：平手\n先手：佐倉 結\n   1 ７六歩(77)\n');
      const shogi = await importing('old.kif', kif, true);
      expect((await findGame(owner, shogi.gameIds[0]!))!.record.tags).toEqual([
        { name: 'Black', value: '佐倉 結' },
      ]);
    });
  });
});
