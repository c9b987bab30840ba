import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { recordAsk } from '@/server/asks';
import {
  findBatch,
  listBatches,
  pauseBatch,
  putFirst,
  startBatch,
  stopBatch,
  sweepNewGames,
} from '@/server/batches';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { createGame, setOwnSide } from '@/server/games';
import { feedBatches } from '@/server/queue';
import { demoOwner, type Owner } from '@/server/owner';
import { asks, games, imports, players } from '@/server/schema';
import { cancelSweep, latestSweep, startSweep } from '@/server/sweeps';
import { runImport } from '@/worker/import-job';
import { queued } from '../support/imports';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';

const SETTINGS = { average: { nodes: 1000 } } as const;
let stranger: Owner;

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('sweeps of many games', () => {
  let owner: Owner;
  /** Three chess games, the third of other players, and a shogi game. */
  let ids: number[];
  beforeAll(async () => {
    await useOwnDatabase('batches_test');
    await migrateDatabase();
    owner = await demoOwner();
    stranger = await newAccount('Somebody');
  });
  afterAll(closeDatabase);
  beforeEach(async () => {
    await database().delete(games);
    await database().delete(asks);
    await database().execute(sql`delete from graphile_worker._private_jobs`);
    ids = [];
    for (const [kind, moves, white] of [
      ['chess', ['e2e4', 'e7e5'], 'Mirela Tanase'],
      ['chess', ['d2d4'], 'Mirela Tanase'],
      ['chess', ['c2c4'], 'Jonas Brandt'],
      ['shogi', ['7g7f'], 'Mirela Tanase'],
    ] as const) {
      const record = { ...mainLineOf(kind, moves), tags: [{ name: 'White', value: white }] };
      ids.push((await createGame(owner, record, true)).id);
    }
  });

  const start = (filter = {}, onlyNew = false) =>
    startBatch(owner, { ...filter, onlyNew }, SETTINGS);
  const jobs = async () => {
    const { rows } = await database().execute<{ key: string; priority: number; task: string }>(
      sql`select key, priority, task_identifier as task from graphile_worker.jobs order by priority, id`,
    );
    return rows;
  };
  const partOf = async (batch: number, game: number) => {
    const rows = await database().select().from(asks).where(eq(asks.parentId, batch));
    return rows.find(({ gameId }) => gameId === game)!;
  };

  it('are queued as one sweep a game, the latest first, beside what is asked for one game', async () => {
    const batch = (await start())!;
    expect(batch).toMatchObject({ games: 4, done: 0, failed: 0, running: 0, state: 'running' });
    expect(batch).toMatchObject({ settings: 'average nodes 1000', positions: 0 });
    // of a game of one move there are two positions
    expect(batch.totalPositions).toBe(9);
    expect(batch.secondsLeft).toBeNull();
    const parts = await Promise.all(ids.toReversed().map((id) => partOf(batch.id, id)));
    const keys = parts.map(({ id }) => `sweep:${id}`);
    expect((await jobs()).map(({ key }) => key)).toEqual(keys);
    const [late] = ids;
    await cancelSweep(owner, (await partOf(batch.id, late!)).id);
    const single = (await startSweep(owner, late!, SETTINGS))!;
    const queuedAs = new Map((await jobs()).map(({ key, task }) => [key, task]));
    expect(queuedAs.get(`sweep:${single.id}`)).toBe('sweep');
    expect(queuedAs.get(keys[0]!)).toBe('batch');
  });

  it.each([
    [{ kind: 'shogi' }, [3]],
    [{ text: 'tanase' }, [0, 1, 3]],
    [{ kind: 'chess', text: 'brandt' }, [2]],
  ] as const)('are of the games that %j holds', async (filter, places) => {
    const batch = (await start(filter))!;
    const rows = await database().select().from(asks).where(eq(asks.parentId, batch.id));
    expect(rows.map(({ gameId }) => gameId).sort()).toEqual(
      places.map((place) => ids[place]).sort(),
    );
  });

  it('leave out what is being gone over, and what has been where that is wished', async () => {
    const [first, second, third, fourth] = ids;
    await startSweep(owner, first!, SETTINGS);
    const done = (await startSweep(owner, second!, SETTINGS))!;
    await recordAsk(done.id, { state: 'done' });
    const batch = (await start({}, true))!;
    const gone = await database().select().from(asks).where(eq(asks.parentId, batch.id));
    expect(gone.map(({ gameId }) => gameId)).toEqual([fourth, third]);
    // all others are being gone over by now
    const again = (await start())!;
    expect(await partOf(again.id, second!)).toBeDefined();
    expect(again.games).toBe(1);
    expect(await start()).toBeNull();
    expect(await start({ text: 'nobody' })).toBeNull();
    expect(await listBatches(owner)).toHaveLength(2);
  });

  it('tell that a game which was asked for by itself goes before them', async () => {
    const [single] = ids;
    const asked = (await startSweep(owner, single!, SETTINGS))!;
    const batch = (await start())!;
    const givesWay = async () => (await findBatch(owner, batch.id))!.givesWay;
    expect(await givesWay()).toBe(false);
    await recordAsk(asked.id, { state: 'running' });
    expect(await givesWay()).toBe(true);
    await recordAsk(asked.id, { state: 'done' });
    expect(await givesWay()).toBe(false);
  });

  it('tell how far they have come, and are done when nothing is left', async () => {
    const batch = (await start({ kind: 'chess' }))!;
    const parts = await Promise.all(ids.slice(0, 3).map((id) => partOf(batch.id, id)));
    await recordAsk(parts[0]!.id, { state: 'running', done: 2 });
    expect(await findBatch(owner, batch.id)).toMatchObject({
      running: 1,
      positions: 2,
      givesWay: false,
    });
    await recordAsk(parts[0]!.id, { state: 'done', done: 3 });
    const told = (await findBatch(owner, batch.id))!;
    expect(told).toMatchObject({ done: 1, running: 0, positions: 3, totalPositions: 7 });
    expect(told.secondsLeft).toBeGreaterThan(0);
    // a game that fails holds nothing back, nor does one that is called off, or deleted
    await recordAsk(parts[1]!.id, { state: 'failed', error: 'no engine' });
    expect(await findBatch(owner, batch.id)).toMatchObject({ failed: 1, state: 'running' });
    await database().delete(games).where(eq(games.id, ids[2]!));
    expect(await findBatch(owner, batch.id)).toMatchObject({ state: 'done', done: 1, failed: 1 });
    expect(await pauseBatch(owner, batch.id, false)).toMatchObject({ state: 'done' });
  });

  it('pause with the game that is being gone over, and go on', async () => {
    const batch = (await start({ kind: 'chess' }))!;
    const running = await partOf(batch.id, ids[0]!);
    await recordAsk(running.id, { state: 'running' });
    expect(await pauseBatch(owner, batch.id, true)).toMatchObject({ state: 'paused' });
    // a worker keeps what it has taken
    expect((await jobs()).map(({ key }) => key)).toEqual([`sweep:${running.id}`]);
    await recordAsk(running.id, { state: 'done', done: 3 });
    expect(await findBatch(owner, batch.id)).toMatchObject({ state: 'paused', done: 1 });
    expect(await pauseBatch(owner, batch.id, false)).toMatchObject({ state: 'running' });
    expect((await jobs()).every(({ priority }) => priority === 0)).toBe(true);
    expect(await jobs()).toHaveLength(3);
  });

  it('keep the queue short: the next come as others leave it, none twice', async () => {
    for (let more = 0; more < 18; more++)
      ids.push((await createGame(owner, mainLineOf('chess', ['e2e4']), true)).id);
    const batch = (await start())!;
    expect(batch.games).toBe(22);
    const keys = async () => (await jobs()).map(({ key }) => key);
    const first = await keys();
    expect(first).toHaveLength(16);
    await feedBatches(database());
    expect(await keys()).toEqual(first);
    // one has been begun, and one is done
    const [begun, done] = first.slice(0, 2).map((key) => Number(key.slice('sweep:'.length)));
    await recordAsk(begun!, { state: 'running' });
    await recordAsk(done!, { state: 'done' });
    await database().execute(sql`select graphile_worker.remove_job(${first[1]!})`);
    await feedBatches(database());
    const next = await keys();
    expect(next).toHaveLength(17);
    expect(new Set(next).size).toBe(17);
    expect(next.slice(0, 15)).toEqual([first[0], ...first.slice(2)]);
    // paused, nothing more comes
    await pauseBatch(owner, batch.id, true);
    await feedBatches(database());
    expect(await keys()).toEqual([first[0]]);
  });

  it('hold games that were chosen one by one, none of them of others', async () => {
    const theirs = (await createGame(stranger, mainLineOf('chess', ['e2e4']), true)).id;
    const batch = (await start({ ids: [ids[0]!, ids[3]!, theirs, 987_654] }))!;
    const parts = await database().select().from(asks).where(eq(asks.parentId, batch.id));
    expect(parts.map(({ gameId }) => gameId).sort()).toEqual([ids[0], ids[3]].sort());
    expect(await start({ ids: [theirs] })).toBeNull();
  });

  it('go over the moves of their owner alone, where it is known which those are', async () => {
    await setOwnSide(owner, ids[2]!, 1);
    const named = { ...owner, playerId: 987_654 };
    await database()
      .insert(players)
      .overridingSystemValue()
      .values({ id: 987_654, ownerId: owner.id, name: 'Me' });
    await database().update(games).set({ secondPlayerId: 987_654 }).where(eq(games.id, ids[1]!));
    const batch = (await startBatch(named, { onlyNew: false }, SETTINGS, { ownMoves: true }))!;
    expect(batch.settings).toBe('average nodes 1000');
    const settings = await Promise.all(
      ids.map(async (id) => (await partOf(batch.id, id)).settings),
    );
    expect(settings).toEqual([
      'average nodes 1000',
      'average nodes 1000 side 1',
      'average nodes 1000 side 1',
      'average nodes 1000',
    ]);
  });

  it('of games that come in are begun with them, and hold those that are new', async () => {
    const pgn = (moves: string, round: number) => `[Round "${round}"]\n\n${moves} *\n\n`;
    const file = (...texts: string[]) => [new TextEncoder().encode(texts.join(''))];
    const one = pgn('1. e4 e5', 1);
    const { id: plain } = await queued(owner, 'plain.pgn', file(one));
    await runImport(plain, new AbortController().signal);
    expect(await listBatches(owner)).toEqual([]);
    const more = file(one, pgn('1. d4 d5', 2), pgn('1. c4', 3));
    const { id } = await queued(owner, 'more.pgn', more, { sweep: SETTINGS });
    await runImport(id, new AbortController().signal);
    const [batch, ...others] = await listBatches(owner);
    expect(others).toEqual([]);
    expect(batch).toMatchObject({ games: 2, state: 'running', settings: 'average nodes 1000' });
    const parts = await database().select().from(asks).where(eq(asks.parentId, batch!.id));
    expect(parts.map(({ total }) => total).sort()).toEqual([2, 3]);
    expect((await jobs()).filter(({ key }) => key.startsWith('sweep'))).toHaveLength(2);
    // part by part they go into the same
    const { batchId } = (await database().select().from(imports).where(eq(imports.id, id)))[0]!;
    expect(batchId).toBe(batch!.id);
    const third = (await createGame(owner, mainLineOf('chess', ['a2a3']), true)).id;
    const again = await database().transaction((tx) =>
      sweepNewGames(tx, owner, batchId, [third], SETTINGS),
    );
    expect(again).toBe(batch!.id);
    expect(await findBatch(owner, again)).toMatchObject({ games: 3 });
  });

  it('let go of a game that is asked for now, which is gone over as is wished now', async () => {
    const batch = (await start({ kind: 'chess' }))!;
    const [first, second, third] = ids;
    const part = await partOf(batch.id, first!);
    expect(await startSweep(stranger, first!, SETTINGS)).toBeNull();
    expect((await latestSweep(owner, first!))!.inBatch).toBe(true);
    const now = (await startSweep(owner, first!, { nodes: 77, lines: 1 }))!;
    expect(now).toMatchObject({ id: part.id, settings: 'nodes 77 lines 1', inBatch: false });
    expect((await jobs()).find(({ key }) => key === `sweep:${part.id}`)!.task).toBe('sweep');
    expect(await findBatch(owner, batch.id)).toMatchObject({ games: 2, state: 'running' });
    await pauseBatch(owner, batch.id, true);
    expect((await jobs()).map(({ key }) => key)).toEqual([`sweep:${part.id}`]);
    // nobody else's game leaves with it, nor one that has begun, or that a worker has just taken
    await pauseBatch(owner, batch.id, false);
    const begun = await partOf(batch.id, second!);
    await recordAsk(begun.id, { state: 'running' });
    expect(await startSweep(owner, second!, SETTINGS)).toMatchObject({ inBatch: true });
    const taken = await partOf(batch.id, third!);
    await database().execute(
      sql`update graphile_worker._private_jobs set locked_at = now(), locked_by = 'test' where key = ${`sweep:${taken.id}`}`,
    );
    expect(await startSweep(owner, third!, SETTINGS)).toMatchObject({ inBatch: true });
    expect(await findBatch(owner, batch.id)).toMatchObject({ games: 2 });
    // one of which nothing is left is gone
    const one = (await start({ kind: 'shogi' }))!;
    await startSweep(owner, ids[3]!, SETTINGS);
    expect(await findBatch(owner, one.id)).toBeNull();
  });

  it('go one behind the other, unless one is put first', async () => {
    const one = (await start({ kind: 'chess' }))!;
    const two = (await start({ kind: 'shogi' }))!;
    const late = await partOf(two.id, ids[3]!);
    const keyOf = ({ id }: { id: number }): string => `sweep:${id}`;
    const order = async () => (await jobs()).map(({ key }) => key);
    expect((await order()).at(-1)).toBe(keyOf(late));
    expect(await putFirst(stranger, two.id)).toBeNull();
    expect(await putFirst(owner, two.id)).toMatchObject({ id: two.id, state: 'running' });
    expect((await order())[0]).toBe(keyOf(late));
    expect(await order()).toHaveLength(4);
    expect((await listBatches(owner)).map(({ id }) => id)).toEqual([two.id, one.id]);
    // and the other again
    await putFirst(owner, one.id);
    expect((await order()).at(-1)).toBe(keyOf(late));
    // still beside what is asked for one game
    expect((await jobs()).every(({ task }) => task === 'batch')).toBe(true);
    await stopBatch(owner, one.id);
    expect(await putFirst(owner, one.id)).toBeNull();
  });

  it('go behind those of all others, where nobody waits for them', async () => {
    const asked = { onlyNew: false };
    const demo = (await startBatch(owner, asked, SETTINGS, { isUnhurried: true }))!;
    const [own] = [await createGame(stranger, mainLineOf('chess', ['e2e4']), true)];
    const theirs = (await startBatch(stranger, asked, SETTINGS))!;
    const first = await partOf(theirs.id, own.id);
    const keys = (await jobs()).map(({ key }) => key);
    expect(keys[0]).toBe(`sweep:${first.id}`);
    expect(keys).toHaveLength(5);
    // unless its owner does
    expect(await putFirst(owner, demo.id)).not.toBeNull();
    expect((await jobs()).map(({ priority }) => priority)).toEqual([0, 0, 0, 0, 0]);
    await stopBatch(stranger, theirs.id);
  });

  it('stop with all that is not finished, and keep what was found', async () => {
    const batch = (await start({ kind: 'chess' }))!;
    const [done, running, waiting] = await Promise.all(
      ids.slice(0, 3).map((id) => partOf(batch.id, id)),
    );
    await recordAsk(done!.id, { state: 'done', done: 3 });
    await recordAsk(running!.id, { state: 'running' });
    expect(await stopBatch(owner, batch.id)).toBe(true);
    expect(await findBatch(owner, batch.id)).toMatchObject({ state: 'cancelled', done: 1 });
    expect((await latestSweep(owner, ids[0]!))!.state).toBe('done');
    for (const part of [running, waiting])
      expect((await partOf(batch.id, part!.gameId!)).state).toBe('cancelled');
    expect((await jobs()).map(({ key }) => key)).not.toContain(`sweep:${waiting!.id}`);
    expect(await stopBatch(owner, batch.id)).toBe(false);
    expect(await pauseBatch(owner, batch.id, true)).toBeNull();
  });

  it('are no business of others', async () => {
    const batch = (await start())!;
    expect(await listBatches(stranger)).toEqual([]);
    expect(await findBatch(stranger, batch.id)).toBeNull();
    expect(await pauseBatch(stranger, batch.id, true)).toBeNull();
    expect(await stopBatch(stranger, batch.id)).toBe(false);
    expect(await startBatch(stranger, { onlyNew: false }, SETTINGS)).toBeNull();
    // a sweep of one game is no batch
    const part = await partOf(batch.id, ids[0]!);
    expect(await findBatch(owner, part.id)).toBeNull();
    expect(await stopBatch(owner, part.id)).toBe(false);
  });
});
