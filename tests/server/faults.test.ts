import { spawn, type ChildProcess } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { GameRecord } from '@/core/game/record';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { listGames } from '@/server/library';
import { createGame } from '@/server/games';
import { healthOf } from '@/server/health';
import { findImport, openImport, queueImport, storePart } from '@/server/imports';
import { demoOwner, type Owner } from '@/server/owner';
import { prepareGame } from '@/server/prepared-game';
import { imports } from '@/server/schema';
import { listStudies, startStudy } from '@/server/studies';
import { cancelSweep, latestSweep, startSweep } from '@/server/sweeps';
import { runImport } from '@/worker/import-job';
import { queued } from '../support/imports';
import { useOwnDatabase } from '../support/database';
import { refuseGames } from '../support/refused-games';

const text = (value: string): Uint8Array => new TextEncoder().encode(value);
const gameOf = (pgn: string): GameRecord => {
  const [reading] = [...readGames(pgn, 'pgn')];
  if (!reading || !isRead(reading)) throw new Error(JSON.stringify(reading));
  return reading.record;
};
const named = (event: string, moves = '1. e4 e5 2. Nf3 *'): GameRecord =>
  gameOf(`[Event "${event}"]\n[Round "${event}"]\n\n${moves}\n`);

const wait = (milliseconds: number): Promise<void> =>
  new Promise((next) => setTimeout(next, milliseconds));
const until = async (test: () => Promise<boolean>, seconds: number): Promise<void> => {
  const started = performance.now();
  while (!(await test())) {
    if (performance.now() - started > seconds * 1000) throw new Error(`not within ${seconds} s`);
    await wait(50);
  }
};

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('faults', { timeout: 120_000 }, () => {
  let owner: Owner;
  let workers: ChildProcess[] = [];
  let said = '';
  const startWorker = (): ChildProcess => {
    const worker = spawn(process.execPath, ['dist/worker.mjs'], {
      env: { ...process.env, BEKTRA_LOG: 'info', BEKTRA_ENGINES: '1' },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    worker.stderr.on('data', (piece: Buffer) => (said += piece.toString()));
    workers.push(worker);
    return worker;
  };
  beforeAll(async () => {
    await useOwnDatabase('faults_test');
    await migrateDatabase();
    owner = await demoOwner();
  });
  afterEach(async () => {
    await Promise.all(
      workers.map(async (worker) => {
        if (worker.exitCode !== null || worker.signalCode !== null) return;
        worker.kill('SIGKILL');
        await new Promise((gone) => worker.once('exit', gone));
      }),
    );
    workers = [];
    said = '';
  });
  afterAll(closeDatabase);

  const stateOf = async (id: number) => (await findImport(owner, id))!;
  const isOver = async (id: number): Promise<boolean> =>
    !['queued', 'running'].includes((await stateOf(id)).state);

  it('a NUL deep inside a file is told, and the worker lives on', async () => {
    const worker = startWorker();
    const pgn = `[Event "${'x'.repeat(5000)}\0"]\n\n1. e4 *\n`;
    const { id } = await queued(owner, 'nul.pgn', [text(pgn)]);
    await until(() => isOver(id), 30);
    expect(await stateOf(id)).toMatchObject({
      state: 'failed',
      problems: [{ code: 'file.binary' }],
    });
    const after = await queued(owner, 'after.pgn', [text('1. e4 c5 2. c3 *\n')], {
      asCopies: true,
    });
    await until(() => isOver(after.id), 30);
    expect((await stateOf(after.id)).state).toBe('done');
    expect(worker.exitCode).toBeNull();
  });

  it('a game that the database refuses does not hold back those beside it', async () => {
    const { id } = await queued(owner, 'part.pgn', [text('1. e4 *\n')], { asCopies: true });
    const row = (await openImport(id))!;
    const good = [prepareGame(named('refusal 1')), prepareGame(named('refusal 3'))];
    const bad = prepareGame(named('refusal 2'));
    const part = {
      games: [good[0]!, { ...bad, json: bad.json.replace('refusal 2', 'nul \\u0000') }, good[1]!],
      baseGames: [],
      failures: [],
      notes: [],
    };
    expect(await storePart(row, part)).toBe(true);
    expect(await stateOf(id)).toMatchObject({
      read: 3,
      kept: 2,
      failed: 1,
      problems: [{ code: 'game.refused', place: { game: 2 } }],
    });
  });

  it('an import that can not succeed says so, without what was in it', async () => {
    const relent = await refuseGames('doomed', '57000');
    const { id } = await queued(
      owner,
      'doomed.pgn',
      [text('[Event "doomed"]\n[Site "a private place"]\n\n1. e4 *\n')],
      { asCopies: true },
    );
    startWorker();
    await until(() => isOver(id), 60);
    expect(await stateOf(id)).toMatchObject({
      state: 'failed',
      kept: 0,
      problems: [{ code: 'import.gaveUp', place: { game: 1 } }],
    });
    await relent();
    expect(said).toContain('57000');
    expect(said).not.toContain('private place');
    const { rows } = await database().execute(
      sql`select count(*)::int as count from graphile_worker.jobs where last_error like '%private place%'`,
    );
    expect(rows[0]).toEqual({ count: 0 });
  });

  it('an import for which there is no room on the disk says so at once, and goes on when there is', async () => {
    const relent = await refuseGames('large', '53100');
    const pgn = text('[Event "large"]\n\n1. e4 e5 2. f4 *\n');
    const { id } = await queued(owner, 'large.pgn', [pgn]);
    await runImport(id, new AbortController().signal);
    expect(await stateOf(id)).toMatchObject({
      state: 'failed',
      kept: 0,
      problems: [{ code: 'import.diskFull', place: { game: 1 } }],
    });
    await relent();
    const again = await queued(owner, 'large.pgn', [pgn]);
    await runImport(again.id, new AbortController().signal);
    expect(await stateOf(again.id)).toMatchObject({ state: 'done', kept: 1 });
  });

  it('a reader that is stuck is ended, and the import says where', async () => {
    const games = Array.from({ length: 4000 }, () => '1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 *\n').join('');
    const { id } = await queued(owner, 'slow.pgn', [text(games)]);
    await runImport(id, new AbortController().signal, 1);
    expect(await stateOf(id)).toMatchObject({
      state: 'failed',
      problems: [{ code: 'import.stuck', place: { game: 1 } }],
    });
  });

  it('an import that is called off ends in the middle', async () => {
    const moves = '1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 4. Ba4 Nf6 5. O-O Be7 *\n';
    const games = Array.from({ length: 20_000 }, (_, i) => `[Round "${i}"]\n\n${moves}`).join('\n');
    const { id } = await queued(owner, 'long.pgn', [text(games)]);
    const controller = new AbortController();
    const running = runImport(id, controller.signal);
    await until(async () => (await stateOf(id)).read > 0, 30);
    controller.abort();
    await running;
    expect((await stateOf(id)).state).toBe('running');
    expect((await stateOf(id)).read).toBeLessThan(20_000);
  });

  it('an import that is called off while a part is being stored is not one that is stuck', async () => {
    const { id } = await queued(owner, 'held.pgn', [text('1. e4 e5 *\n'.repeat(200))]);
    const controller = new AbortController();
    let running: Promise<void> | undefined;
    await database().transaction(async (tx) => {
      await tx.execute(sql`select 1 from imports where id = ${id} for update`);
      running = runImport(id, controller.signal, 1000);
      await until(async () => {
        const { rows } = await database().execute(
          sql`select 1 from pg_stat_activity where wait_event_type = 'Lock' and query like '%imports%'`,
        );
        return rows.length > 0;
      }, 30);
      controller.abort();
    });
    await running;
    expect((await stateOf(id)).state).not.toBe('failed');
  });

  it('a file that breaks off leaves nothing behind', async () => {
    async function* broken() {
      yield text('1. e4');
      throw new Error('the connection is gone');
    }
    const before = await database().$count(imports);
    await expect(queueImport(owner, 'broken.pgn', broken())).rejects.toThrow('gone');
    expect(await database().$count(imports)).toBe(before);
  });

  it('sweeps do not keep an import waiting', async () => {
    const games = await Promise.all(
      Array.from({ length: 6 }, (_, index) => createGame(owner, named(`sweep slots ${index}`))),
    );
    startWorker();
    for (const { id } of games) await startSweep(owner, id, { depth: 60, lines: 3 });
    await until(async () => {
      const sweeps = await Promise.all(games.map(({ id }) => latestSweep(owner, id)));
      return sweeps.filter((sweep) => sweep!.state === 'running').length === 4;
    }, 30);
    const { id } = await queued(owner, 'meanwhile.pgn', [text('1. d4 d5 *\n')], { asCopies: true });
    await until(() => isOver(id), 20);
    expect((await stateOf(id)).state).toBe('done');
    for (const game of games) await cancelSweep(owner, (await latestSweep(owner, game.id))!.id);
  });

  it('restarts of the worker do not use up the attempts of a sweep', async () => {
    const { id } = await createGame(owner, named('restarts', '1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 *'));
    await startSweep(owner, id, { depth: 60, lines: 2 });
    for (let round = 0; round < 7; round++) {
      const worker = startWorker();
      const { rows } = await database().execute<{ attempts: number }>(
        sql`select attempts from graphile_worker.jobs where task_identifier = 'sweep' order by id desc limit 1`,
      );
      await until(async () => {
        const { rows: now } = await database().execute<{ attempts: number }>(
          sql`select attempts from graphile_worker.jobs where task_identifier = 'sweep' order by id desc limit 1`,
        );
        return now[0]!.attempts > rows[0]!.attempts;
      }, 20);
      worker.kill(round % 2 ? 'SIGTERM' : 'SIGKILL');
      await new Promise((gone) => worker.once('exit', gone));
    }
    expect((await latestSweep(owner, id))!.state).toBe('running');
    await cancelSweep(owner, (await latestSweep(owner, id))!.id);
  });

  it('the same game sent ten times at once is there once', async () => {
    const record = named('ten at once');
    const insertions = await Promise.all(
      Array.from({ length: 10 }, () => createGame(owner, record)),
    );
    expect(insertions.filter(({ duplicate }) => !duplicate)).toHaveLength(1);
    expect(new Set(insertions.map(({ id }) => id)).size).toBe(1);
  });

  it('as many studies as are allowed go in, however many are asked for at once', async () => {
    const { id } = await createGame(owner, named('many studies'));
    const task = { node: 0, way: [], engine: null, settings: { nodes: 1000, lines: 1 } };
    const started = await Promise.all(
      Array.from({ length: 60 }, () => startStudy(owner, owner, id, task)),
    );
    expect(started.filter((one) => 'study' in one)).toHaveLength(20);
    expect(await listStudies(owner, id)).toHaveLength(20);
    await database().execute(sql`delete from asks`);
  });

  it('a study is asked for at a move that one entered oneself', async () => {
    const record = named('own node');
    const far = 2 ** 51 + 7;
    const nodes = new Map(record.tree.nodes);
    const root = nodes.get(0)!;
    nodes.set(far, { id: far, parent: 0, move: nodes.get(1)!.move, children: [] });
    nodes.set(0, { ...root, children: [...root.children, far] });
    const { id } = await createGame(owner, { ...record, tree: { ...record.tree, nodes } });
    const task = { node: far, way: [], engine: null, settings: { nodes: 1000, lines: 1 } };
    const started = await startStudy(owner, owner, id, task);
    expect(started).toMatchObject({ study: { position: { node: far } } });
    await database().execute(sql`delete from asks`);
  });

  it('a worker gives way to other programs with all its threads, as it was told', async () => {
    process.env.BEKTRA_WORKER_NICE = '7';
    const { pid } = startWorker();
    delete process.env.BEKTRA_WORKER_NICE;
    await until(async () => (await healthOf()).worker, 20);
    const nice = readdirSync(`/proc/${pid}/task`).map((thread) => {
      const stat = readFileSync(`/proc/${pid}/task/${thread}/stat`, 'utf8');
      // behind the name, which may hold anything
      return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[16]);
    });
    // the threads of the process itself, and those of the engines
    expect(nice.filter((one) => one === 7).length).toBeGreaterThan(1);
  });

  it('health tells whether a worker lives', async () => {
    // the one before is gone once the database has seen it
    await until(async () => !(await healthOf()).worker, 20);
    expect(await healthOf()).toEqual({ database: true, worker: false });
    const worker = startWorker();
    await until(async () => (await healthOf()).worker, 20);
    worker.kill('SIGKILL');
    await until(async () => !(await healthOf()).worker, 20);
  });

  it.each([
    ['vlasek', 'Vlašek, Jiří'],
    ['JIRI vlas', 'Vlašek, Jiří'],
    ['ｖｌａｓｅｋ', 'Vlašek, Jiří'],
    ['サクラ', 'さくら 結'],
  ])('%s finds %s', async (typed, name) => {
    await createGame(owner, gameOf(`[White "${name}"]\n[Event "folding"]\n\n1. e4 *\n`));
    const games = await listGames(owner, { text: `${typed} folding` }, { count: 99 });
    expect(games.map(({ players }) => players[0])).toEqual([name]);
  });
});
