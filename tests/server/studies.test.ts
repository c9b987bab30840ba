import { sql } from 'drizzle-orm';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { readEnginesFile } from '@/server/engines-file';
import { insertGames } from '@/server/insert-games';
import { prepareGame } from '@/server/prepared-game';
import { demoOwner, type Owner } from '@/server/owner';
import { offeredEngines } from '@/server/external-engines';
import { findStudy, removeStudy, startStudy } from '@/server/studies';
import { engineTrials } from '@/worker/engine-trials';
import { useOwnDatabase } from '../support/database';

const folder = mkdtempSync(join(tmpdir(), 'bektra-engines-'));
const file = join(folder, 'engines.json');
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const command = (kind: string) => [process.execPath, resolve('dist/cli.mjs'), 'engine', kind];
const CONFIGURED = [
  { name: 'Chess', kind: 'chess', command: command('chess'), users: 'everyone', atOnce: 2 },
  { name: 'Shogi', kind: 'shogi', command: command('shogi'), users: 'everyone' },
  { name: 'Private', kind: 'chess', command: command('chess'), users: ['Somebody Else'] },
  { name: 'Mute', kind: 'chess', command: [process.execPath, '-e', '0'], users: 'everyone' },
  {
    name: 'Wrong',
    kind: 'chess',
    command: command('chess'),
    options: { Hash: '-1', Colour: 'red' },
    users: 'everyone',
  },
];

describe('the file of external engines', () => {
  it('says what is wrong with it, and where', () => {
    const write = (text: string): string => {
      const path = join(folder, 'broken.json');
      writeFileSync(path, text);
      return path;
    };
    const one = { name: 'X', kind: 'chess', command: ['/bin/x'], users: 'everyone' };
    expect(() => readEnginesFile(write('{'))).toThrow(/broken\.json/);
    const reading = (change: object) => () =>
      readEnginesFile(write(JSON.stringify({ engines: [{ ...one, ...change }] })));
    expect(reading({})()).toHaveLength(1);
    expect(reading({ command: ['x'] })).toThrow(/engines\.0\.command.*full path/s);
    expect(reading({ options: { A: 'b\nquit' } })).toThrow(/one line/);
    expect(reading({ users: 'me' })).toThrow(/users/);
    expect(reading({ shell: true })).toThrow(/shell/);
    expect(reading({})()[0]).toMatchObject({ atOnce: 1, options: {} });
    for (const atOnce of [1, 64]) expect(reading({ atOnce })()[0]).toMatchObject({ atOnce });
    for (const atOnce of [0, 65, 1.5]) expect(reading({ atOnce })).toThrow(/atOnce/);
    expect(() => readEnginesFile(write(JSON.stringify({ engines: [one, one] })))).toThrow(/same/);
    expect(readEnginesFile(join(folder, 'missing.json'))).toEqual([]);
  });
});

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('studies', { timeout: 120_000 }, () => {
  let owner: Owner;
  let workers: ChildProcess[] = [];
  const games: Record<'chess' | 'shogi', number> = { chess: 0, shogi: 0 };
  const startWorker = (): ChildProcess => {
    const worker = spawn(process.execPath, ['dist/worker.mjs'], {
      env: {
        ...process.env,
        BEKTRA_LOG: 'silent',
        BEKTRA_ENGINES: '1',
        BEKTRA_ENGINES_FILE: file,
      },
      stdio: 'ignore',
    });
    workers.push(worker);
    return worker;
  };
  const killed = (worker: ChildProcess): Promise<void> =>
    new Promise((done) => {
      if (worker.exitCode !== null || worker.signalCode !== null) return done();
      worker.once('exit', () => done());
      worker.kill('SIGKILL');
    });

  beforeAll(async () => {
    process.env.BEKTRA_ENGINES_FILE = file;
    writeFileSync(file, JSON.stringify({ engines: CONFIGURED }));
    await useOwnDatabase('studies_test');
    await migrateDatabase();
    owner = await demoOwner();
    const texts = {
      chess: '1. e4 e5 2. Nf3 Nc6 *',
      shogi: '手合割：平手\n1 ７六歩(77)\n2 ３四歩(33)\n',
    };
    for (const [kind, format] of [
      ['chess', 'pgn'],
      ['shogi', 'kif'],
    ] as const) {
      const [reading] = [...readGames(texts[kind], format)].filter(isRead);
      const [inserted] = await database().transaction((tx) =>
        insertGames(tx, owner, [prepareGame(reading!.record)], 'studies', true),
      );
      games[kind] = inserted!.id;
    }
  });
  afterEach(async () => {
    await Promise.all(workers.map(killed));
    workers = [];
  });
  afterAll(async () => {
    delete process.env.BEKTRA_ENGINES_FILE;
    await closeDatabase();
  });

  const ask = async (
    kind: 'chess' | 'shogi',
    engine: string | null,
    settings: Parameters<typeof startStudy>[3]['settings'],
    way: readonly string[] = [],
  ): Promise<number> => {
    const started = await startStudy(owner, owner, games[kind], { node: 0, way, engine, settings });
    if ('refused' in started) throw new Error(started.refused);
    return started.study.id;
  };
  const state = async (id: number) => (await findStudy(owner, id))?.state ?? null;
  const SLOW = { timeout: 60_000, interval: 100 };

  it('by our engine, taken up again after the worker was killed', async () => {
    const id = await ask('chess', null, { nodes: 4_000_000, lines: 2 });
    const first = startWorker();
    await expect.poll(() => state(id), SLOW).toBe('running');
    await killed(first);
    startWorker();
    await expect.poll(() => state(id), SLOW).toBe('done');
    const { answer } = (await findStudy(owner, id))!;
    expect(answer!.lines).toHaveLength(2);
    expect(answer!.nodes).toBeGreaterThanOrEqual(4_000_000);
  });

  it.each([
    ['chess', 'Chess', 'e2e4'],
    ['shogi', 'Shogi', '7g7f'],
  ] as const)(
    'by an external %s engine, with as many lines as asked for',
    async (kind, name, move) => {
      startWorker();
      const id = await ask(kind, name, { milliseconds: 500, lines: 3 }, [move]);
      await expect.poll(() => state(id), SLOW).toBe('done');
      const { lines, depth } = (await findStudy(owner, id))!.answer!;
      expect(depth).toBeGreaterThan(3);
      expect(lines).toHaveLength(3);
      const ruleset = rulesetOf(kind);
      for (const line of lines) {
        let position = ruleset.play(ruleset.start(), ruleset.parseCode(move)!);
        for (const code of line.moves) {
          expect(ruleset.isLegal(position, ruleset.parseCode(code)!)).toBe(true);
          position = ruleset.play(position, ruleset.parseCode(code)!);
        }
      }
    },
  );

  it('what an engine offers is known, and why one cannot be used', async () => {
    startWorker();
    const offered = async () =>
      Object.fromEntries((await offeredEngines(owner, 'chess')).map((one) => [one.name, one]));
    await expect
      .poll(async () => (await offered()).Wrong?.problem, SLOW)
      .toContain('Hash: a whole number from 1');
    const engines = await offered();
    expect(engines.Wrong!.problem).toContain('Colour: the engine has no such option');
    expect(engines.Mute!.problem).toContain('ended');
    expect(engines.Chess).toMatchObject({ problem: null });
    expect(engines.Chess!.options.map(({ name }) => name)).toContain('MultiPV');
    // and it stays with those who may use it
    expect(Object.keys(engines)).not.toContain('Private');
    await expect(ask('chess', 'Private', { milliseconds: 100, lines: 1 })).rejects.toThrow(
      'engine',
    );
    await expect(ask('shogi', 'Chess', { milliseconds: 100, lines: 1 })).rejects.toThrow('engine');
  });

  it('what failed is tried again later and later, what works is not, what is configured otherwise at once', async () => {
    let now = 0;
    let attempts: string[] = [];
    const broken = new Set(['Chess', 'Shogi']);
    const round = engineTrials(
      () => now,
      ({ name }) => {
        attempts.push(name);
        return Promise.resolve({ options: [], problem: broken.has(name) ? 'no' : null });
      },
    );
    const attemptsAt = async (seconds: number): Promise<string[]> => {
      now = seconds * 1000;
      attempts = [];
      await round();
      return attempts;
    };
    const problem = async () =>
      (await offeredEngines(owner, 'chess')).find(({ name }) => name === 'Chess')?.problem;
    expect(await attemptsAt(0)).toEqual(['Chess', 'Shogi', 'Private', 'Mute', 'Wrong']);
    expect(await problem()).toBe('no');
    expect(await attemptsAt(14.9)).toEqual([]);
    expect(await attemptsAt(15)).toEqual(['Chess', 'Shogi']);
    expect(await attemptsAt(44.9)).toEqual([]);
    broken.delete('Chess');
    expect(await attemptsAt(45)).toEqual(['Chess', 'Shogi']);
    expect(await problem()).toBeNull();
    for (const [at, tried] of [
      [104, false],
      [105, true],
      [224, false],
      [225, true],
      [465, true],
      [945, true],
      [1544, false],
      [1545, true],
      [2144, false],
      [2145, true],
    ] as const)
      expect([at, await attemptsAt(at)]).toEqual([at, tried ? ['Shogi'] : []]);

    const [chess, ...others] = CONFIGURED;
    try {
      writeFileSync(file, JSON.stringify({ engines: [{ ...chess, atOnce: 3 }, ...others] }));
      expect(await attemptsAt(2146)).toEqual(['Chess']);
      // a file that can't be read leaves what is known as it is
      writeFileSync(file, '{');
      expect(await attemptsAt(9999)).toEqual([]);
      writeFileSync(file, JSON.stringify({ engines: others }));
      expect(await attemptsAt(9999)).toEqual(['Shogi']);
      writeFileSync(file, JSON.stringify({ engines: CONFIGURED }));
      expect(await problem()).toBe('not tried yet');
    } finally {
      writeFileSync(file, JSON.stringify({ engines: CONFIGURED }));
    }
  });

  it('one that fails says so, and one that is taken away ends', async () => {
    startWorker();
    const mute = await ask('chess', 'Mute', { milliseconds: 100, lines: 1 });
    const long = await ask('chess', 'Chess', { milliseconds: 600_000, lines: 1 });
    await expect.poll(() => state(long), SLOW).toBe('running');
    expect(await removeStudy(owner, long)).toBe(true);
    expect(await state(long)).toBeNull();
    await expect.poll(() => state(mute), SLOW).toBe('failed');
    // the lane is free again
    const next = await ask('chess', 'Chess', { milliseconds: 100, lines: 1 });
    await expect.poll(() => state(next), SLOW).toBe('done');
  });

  it('by an external engine stand in as many lanes as may run at once, ours in none', async () => {
    const ids: number[] = [];
    for (const engine of ['Chess', 'Chess', 'Chess', 'Chess', null])
      ids.push(await ask('chess', engine, { milliseconds: 100, lines: 1 }));
    const lanes = await Promise.all(
      ids.map(async (id) => {
        const { rows } = await database().execute<{ queue_name: string | null }>(
          sql`select queue_name from graphile_worker.jobs where key = ${`study:${id}`}`,
        );
        return rows[0]!.queue_name;
      }),
    );
    expect(lanes[0]).not.toBe(lanes[1]);
    expect(lanes.slice(2)).toEqual([lanes[0], lanes[1], null]);
    for (const id of ids) await removeStudy(owner, id);
  });

  it('of what cannot be played, or of another owner, is refused', async () => {
    await expect(ask('chess', null, { nodes: 1000, lines: 1 }, ['e2e5'])).rejects.toThrow('unfit');
    const other = { ...owner, id: '00000000-0000-4000-8000-00000000ffff' };
    const task = { node: 0, way: [], engine: null, settings: { nodes: 1000, lines: 1 } };
    expect(await startStudy(other, other, games.chess, task)).toEqual({ refused: 'missing' });
    const id = await ask('chess', null, { nodes: 1000, lines: 1 });
    expect(await findStudy(other, id)).toBeNull();
    expect(await removeStudy(other, id)).toBe(false);
  });
});
