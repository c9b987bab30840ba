import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { chess } from '@/core/chess/ruleset';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { endingAt, resultOf } from '@/server/endings';
import { findingsOf } from '@/server/findings';
import { findGame } from '@/server/games';
import { insertGames } from '@/server/insert-games';
import { demoOwner, type Owner } from '@/server/owner';
import { prepareGame } from '@/server/prepared-game';
import { listProofs, PROOF_LANES, startProof, stopProof } from '@/server/proofs';
import { latestSweep, startSweep, sweepAnew } from '@/server/sweeps';
import { asks } from '@/server/schema';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';

const folder = mkdtempSync(join(tmpdir(), 'bektra-proofs-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Pawns that block each other. */
const LOCKED = '8/8/4k3/4p3/4P3/4K3/8/8 w - - 0 1';
/** Solved with all that a pawn may become: by one thread in a quarter of a minute. */
const LONG = '4k3/8/8/8/8/4p3/3QP3/4K3 w - - 0 1';
/** Pawns that can run: some seconds. */
const RUNNING = '8/8/1p6/4k3/8/P3K3/P7/8 w - - 0 1';

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('proofs', { timeout: 240_000 }, () => {
  let owner: Owner;
  let workers: ChildProcess[] = [];
  const startWorker = (): ChildProcess => {
    const worker = spawn(process.execPath, ['dist/worker.mjs'], {
      env: { ...process.env, BEKTRA_LOG: 'silent', BEKTRA_ENGINES: '1', BEKTRA_ENDING_PIECES: '3' },
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
  const gameFrom = async (fen: string, moves = ''): Promise<number> => {
    const text = `[SetUp "1"]\n[FEN "${fen}"]\n\n${moves} *\n`;
    const [reading] = [...readGames(text, 'pgn')].filter(isRead);
    const [inserted] = await database().transaction((tx) =>
      insertGames(tx, owner, [prepareGame(reading!.record)], 'proofs', true),
    );
    return inserted!.id;
  };
  const stateOf = async (game: number) => (await listProofs(owner, game))[0]?.state;
  const PAWN = '8/8/8/4k3/8/8/4P3/4K3 w - - 0 1';
  const tablesAreThere = (): boolean => endingAt(PAWN)?.tables === 'there';

  beforeAll(async () => {
    process.env.BEKTRA_DATA = folder;
    process.env.BEKTRA_ENDING_PIECES = '3';
    process.env.BEKTRA_ENGINES = '1';
    await useOwnDatabase('proofs_test');
    await migrateDatabase();
    owner = await demoOwner();
  });
  afterEach(async () => {
    await Promise.all(workers.map(killed));
    workers = [];
  });
  afterAll(closeDatabase);

  it('are refused with what is wrong', async () => {
    const locked = await gameFrom(LOCKED);
    expect(await startProof(owner, locked + 1000, 0, [])).toEqual({ refused: 'missing' });
    expect(await startProof(owner, locked, 99, [])).toEqual({ refused: 'missing' });
    // a move that can't be played, and the start of a game
    expect(await startProof(owner, locked, 0, ['e4e5'])).toEqual({ refused: 'unfit' });
    const whole = await gameFrom('rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1');
    expect(await startProof(owner, whole, 0, [])).toEqual({ refused: 'unfit' });
    for (let count = 0; count < 10; count++)
      expect(await startProof(owner, locked, 0, [])).toHaveProperty('proof');
    expect(await startProof(owner, locked, 0, [])).toEqual({ refused: 'tooMany' });
    const waiting = await listProofs(owner, locked);
    expect(waiting).toHaveLength(10);
    const stranger = { id: randomUUID() };
    expect(await listProofs(stranger, locked)).toEqual([]);
    expect(await stopProof(stranger, waiting[0]!.id)).toBe(false);
    for (const { id } of waiting) expect(await stopProof(owner, id)).toBe(true);
    expect(await listProofs(owner, locked)).toEqual([]);
  });

  it('wait for none that takes longer, and the first of one owner for no second of another', async () => {
    const placeOf = async (by: Owner, fen: string) => {
      const [reading] = [...readGames(`[SetUp "1"]\n[FEN "${fen}"]\n\n*\n`, 'pgn')].filter(isRead);
      const [game] = await database().transaction((tx) =>
        insertGames(tx, by, [prepareGame(reading!.record)], 'proofs', true),
      );
      const started = await startProof(by, game!.id, 0, []);
      if ('refused' in started) throw new Error(started.refused);
      const { rows } = await database().execute<{ priority: number; lane: string }>(
        sql`select priority, queue_name as lane from graphile_worker.jobs where key = ${`proof:${started.proof.id}`}`,
      );
      return { ...rows[0]!, stop: () => stopProof(by, started.proof.id) };
    };
    const other = await newAccount('Other');
    const all = [
      await placeOf(owner, LONG),
      await placeOf(owner, LOCKED),
      await placeOf(other, LOCKED),
      await placeOf(other, RUNNING),
    ];
    const [short, long] = PROOF_LANES;
    expect(all.map(({ lane, priority }) => [lane, priority])).toEqual([
      [long, 0],
      [short, 1],
      [short, 0],
      [short, 1],
    ]);
    for (const { stop } of all) expect(await stop()).toBe(true);
  });

  /** Of a side that is lost: how many replies to each of its moves win, counted one by one. */
  function repliesAreCounted(): void {
    const lost = chess.start('8/8/8/8/3k4/8/2R5/3K4 b - - 0 1');
    const { worth, moves } = endingAt(chess.write(lost))!;
    expect(worth).toMatchObject({ least: 'loss', most: 'loss' });
    const counted = moves.map(({ move }) => {
      const after = chess.play(lost, chess.parseCode(move)!);
      return chess.moves(after).filter((reply) => resultOf(chess.play(after, reply)) === 'loss')
        .length;
    });
    expect(moves.map(({ replies }) => replies)).toEqual(counted);
    expect(new Set(counted).size).toBeGreaterThan(1);
  }

  it('run to their end, and are known from then on', async () => {
    const game = await gameFrom(LOCKED, '1. Kd3');
    expect(endingAt(LOCKED)).toMatchObject({ worth: null, tables: 'none', made: null });
    expect(endingAt(PAWN)).toMatchObject({ tables: 'coming', made: { done: 0, of: 5 } });
    // a worker that is killed while it makes tables leaves none that is not whole
    const killedSoon = startWorker();
    await expect
      .poll(() => endingAt(PAWN)?.made?.done ?? 5, { timeout: 60_000, interval: 5 })
      .toBeGreaterThan(0);
    await killed(killedSoon);
    startWorker();
    await expect.poll(tablesAreThere, { timeout: 60_000 }).toBe(true);
    expect(endingAt(PAWN)).toMatchObject({ tables: 'there', made: null });
    repliesAreCounted();
    await startProof(owner, game, 0, []);
    await expect.poll(() => stateOf(game), { timeout: 60_000 }).toBe('done');
    expect(endingAt(LOCKED)).toMatchObject({
      tables: 'there',
      worth: { least: 'draw', most: 'draw' },
    });
    // asked again, it is over at once
    expect(await startProof(owner, game, 0, ['e3d3'])).toHaveProperty('proof.state', 'queued');
    await expect.poll(() => stateOf(game), { timeout: 60_000 }).toBe('done');
  });

  it('are taken up by the sweep that a game has, by themselves', async () => {
    const game = await gameFrom('8/8/2k5/2p5/2P5/2K5/8/8 w - - 0 1', '1. Kd3 Kd6');
    const sweep = async () => (await latestSweep(owner, game))!;
    const exactlyKnown = async (): Promise<number> => {
      const found = await findingsOf(owner, (await findGame(owner, game))!);
      return found!.findings.findings.course.filter((one) => one?.origin.by === 'tables').length;
    };
    startWorker();
    await startSweep(owner, game, { nodes: 3000, lines: 2 });
    await expect.poll(async () => (await sweep()).state, { timeout: 60_000 }).toBe('done');
    const before = await sweep();
    expect(await exactlyKnown()).toBe(0);
    await startProof(owner, game, 0, []);
    await expect.poll(exactlyKnown, { timeout: 60_000 }).toBe(3);
    const after = await sweep();
    expect(after.settings).toBe(before.settings);
    // what another engine said is not asked again of this one
    const stored = (await findGame(owner, game))!;
    await sweepAnew(owner, stored, 'another');
    expect((await sweep()).id).toBe(after.id);
    // one that waits in a batch stays there, as was wished
    const batch = { plan: 'batch', settings: 'nodes 9000 lines 1', total: 1 } as const;
    const [waiting] = await database()
      .insert(asks)
      .values({ ...batch, ownerId: owner.id, state: 'paused' })
      .returning();
    await database()
      .insert(asks)
      .values({ ...batch, plan: 'sweep', ownerId: owner.id, gameId: game, parentId: waiting!.id });
    await sweepAnew(owner, stored, after.version!);
    expect(await sweep()).toMatchObject({ settings: batch.settings, inBatch: true });
  });

  it('go on after their worker was killed', async () => {
    const game = await gameFrom(RUNNING);
    const first = startWorker();
    await startProof(owner, game, 0, []);
    await expect.poll(() => stateOf(game), { timeout: 60_000 }).toBe('running');
    await killed(first);
    expect(await stateOf(game)).toBe('running');
    startWorker();
    await expect.poll(() => stateOf(game), { timeout: 200_000, interval: 500 }).toBe('done');
    expect(endingAt(RUNNING)).toMatchObject({ worth: { least: 'draw', most: 'draw' } });
    expect(
      readdirSync(join(folder, 'endings')).filter((name) => /\.proof$/.test(name)),
    ).toHaveLength(1);
  });
});
