import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GET as listBases, POST as makeBase } from '@/app/api/bases/route';
import { DELETE as removeBase } from '@/app/api/bases/[id]/route';
import { GET as findBaseGame } from '@/app/api/bases/[id]/game/route';
import { GET as listBaseGames } from '@/app/api/bases/[id]/games/route';
import { GET as askBase } from '@/app/api/bases/[id]/moves/route';
import { GET as askOnward } from '@/app/api/bases/[id]/onward/route';
import { GET as listDepartures } from '@/app/api/games/[id]/departures/route';
import { GET as glimpse } from '@/app/api/games/[id]/moment/route';
import { PUT as keepOwnSide } from '@/app/api/games/[id]/own-side/route';
import { GET as findReview } from '@/app/api/games/[id]/review/route';
import { GET as changes, POST as saveSteps } from '@/app/api/games/[id]/steps/route';
import { GET as listStudies, POST as startStudy } from '@/app/api/games/[id]/studies/route';
import {
  DELETE as stopSweep,
  POST as startSweep,
  PUT as compareSweep,
} from '@/app/api/games/[id]/sweep/route';
import { POST as takeImport } from '@/app/api/imports/route';
import { POST as think } from '@/app/api/games/[id]/think/route';
import { POST as saveFilter } from '@/app/api/filters/route';
import { GET as listGames, POST as createGame, PUT as changeGames } from '@/app/api/games/route';
import { POST as hurryBatch } from '@/app/api/batches/[id]/first/route';
import { DELETE as stopBatch, PUT as pauseBatch } from '@/app/api/batches/[id]/route';
import { GET as exportGame } from '@/app/api/games/[id]/export/route';
import { GET as findSpeed } from '@/app/api/speed/route';
import { GET as listBatches, POST as startBatch } from '@/app/api/batches/route';
import { GET as listEngines } from '@/app/api/engines/route';
import { GET as findFailed } from '@/app/api/imports/[id]/failed/route';
import { DELETE as stopImport, GET as findImport } from '@/app/api/imports/[id]/route';
import { GET as findPosition } from '@/app/api/positions/route';
import { DELETE as removeStudy, GET as findStudy } from '@/app/api/studies/[id]/route';
import { toJson } from '@/core/game/serial';
import { ROOT } from '@/core/game/tree';
import { openDemo } from '@/server/accounts';
import { closeDatabase, migrateDatabase } from '@/server/database';
import { cookiesAsSent } from '../support/accounts';
import { demoOwner } from '@/server/owner';
import { useOwnDatabase } from '../support/database';
import { queued } from '../support/imports';
import { refuseGames } from '../support/refused-games';
import { mainLineOf } from '../support/lines';

type Handler = (
  request: Request,
  context: { params: Promise<{ id: string } | undefined> },
) => Promise<Response>;

const HOST = '127.0.0.1:3210';
const NOBODY = '999999';
/** Of the demo account. */
let cookie = '';

/** The status, and what was answered: of a refusal its code. */
async function ask(
  handler: Handler,
  { id, query = '', body }: { id?: string | number; query?: string; body?: unknown } = {},
): Promise<[status: number, answer: unknown]> {
  const request = new Request(`http://${HOST}/api${query}`, {
    method: body === undefined ? 'GET' : 'POST',
    headers: { host: HOST, cookie },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const params = Promise.resolve(id === undefined ? undefined : { id: String(id) });
  const response = await handler(request, { params });
  if (response.status === 204) return [204, null];
  const answer = (await response.json()) as { error?: string };
  return [response.status, response.ok ? answer : answer.error];
}

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('routes answer', () => {
  const game = toJson(mainLineOf('chess', ['e2e4', 'e7e5', 'g1f3']));
  const sweep = { depth: 4, lines: 1 };
  const study = { node: ROOT, way: [], engine: null, lines: 1 };
  let id = 0;
  beforeAll(async () => {
    await useOwnDatabase('routes_test');
    await migrateDatabase();
    const opened = await openDemo();
    if (typeof opened === 'string') throw new Error(opened);
    cookie = cookiesAsSent(opened);
    id = await fresh();
  });
  afterAll(closeDatabase);
  const fresh = async (): Promise<number> => {
    const [, answer] = await ask(createGame, { query: '?copy=1', body: game });
    return (answer as { id: number }).id;
  };

  it('to a new game', async () => {
    expect(await ask(createGame, { body: game })).toEqual([201, { id, duplicate: true }]);
    const [status, copy] = await ask(createGame, { query: '?copy=1', body: game });
    expect([status, copy]).toEqual([201, { id: expect.any(Number) as number, duplicate: false }]);
    expect((copy as { id: number }).id).not.toBe(id);
    expect(await ask(createGame, { query: '?copy=2', body: game })).toEqual([400, 'malformed']);
    expect(await ask(createGame, { body: { ...game, kind: 'go' } })).toEqual([400, 'malformed']);
    const illegal = { ...game, nodes: game.nodes.map((node) => ({ ...node, move: 'e2e5' })) };
    expect(await ask(createGame, { body: illegal })).toEqual([400, 'malformed']);
  });

  it('to a game for which there is no room on the disk', async () => {
    const relent = await refuseGames('large', '53100');
    const large = { ...game, tags: [{ name: 'Event', value: 'large' }] };
    const store = () => ask(createGame, { query: '?copy=1', body: large });
    expect(await store()).toEqual([507, 'diskFull']);
    await relent();
    expect(await store()).toMatchObject([201, { duplicate: false }]);
  });

  it('to what is asked of a game that is not there, or of none', async () => {
    const steps = { version: 1, steps: [{ type: 'remove', node: 1 }] };
    const all: [Handler, object][] = [
      [glimpse, { query: '?ply=1' }],
      [keepOwnSide, { body: { side: 0 } }],
      [findReview, {}],
      [changes, { query: '?since=1' }],
      [saveSteps, { body: steps }],
      [startStudy, { body: study }],
      [listStudies, {}],
      [startSweep, { body: sweep }],
      [stopSweep, {}],
      [compareSweep, { body: { beside: true } }],
      [think, { body: { side: null, stop: 1, move: 'e2e4' } }],
      [findImport, {}],
      [findFailed, { query: '?as=report' }],
      [stopImport, {}],
      [findStudy, {}],
      [removeStudy, {}],
    ];
    for (const [handler, parts] of all)
      for (const nobody of [NOBODY, '-1', 'x', '1.5'])
        expect(await ask(handler, { id: nobody, ...parts })).toEqual([404, 'missing']);
  });

  it('to a game that is deleted', async () => {
    const own = await fresh();
    const change = (done: object) =>
      ask(changeGames, { body: { games: { ids: [own] }, change: done } });
    const deletion = { do: 'delete' };
    const told = { games: 1, deleted: expect.any(String) as string };
    expect(await change(deletion)).toEqual([200, told]);
    expect(await change(deletion)).toEqual([200, { ...told, games: 0 }]);
    expect(await ask(glimpse, { id: own, query: '?ply=1' })).toEqual([404, 'missing']);
    expect(await change({ do: 'restore' })).toEqual([200, { games: 1, deleted: null }]);
    expect(await ask(glimpse, { id: own, query: '?ply=1' })).toMatchObject([200, { last: null }]);
    for (const ply of ['0', '-1', 'x', '12001'])
      expect(await ask(glimpse, { id: own, query: `?ply=${ply}` })).toEqual([400, 'malformed']);
    expect(await ask(glimpse, { id: own, query: '?ply=500' })).toEqual([404, 'missing']);
  });

  it('to what is asked of the library', async () => {
    const own = await fresh();
    const list = (query: string) => ask(listGames, { query });
    const [, { games }] = (await list('?count=1&sort=-added')) as [number, { games: object[] }];
    expect(games).toMatchObject([{ id: own }]);
    expect(await list('?from=100000')).toEqual([200, { games: [] }]);
    for (const query of ['?count=0', '?count=201', '?from=-1', '?from=x'])
      expect(await list(query)).toEqual([400, 'malformed']);
    // a filter that is not understood is none
    expect(((await list('?accuracy=x&sort=x&count=1')) as [number, typeof games])[0]).toBe(200);
    const change = (body: object) => ask(changeGames, { body });
    const label = { do: 'label', label: 'x' };
    for (const wrong of [
      {},
      { games: {}, change: { do: 'burn' } },
      { games: {}, change: { do: 'label', label: ' ' } },
      { games: {}, change: { do: 'label', label: 'x'.repeat(41) } },
      { games: { ids: [] }, change: label },
      { games: { ids: Array.from({ length: 1001 }, () => own) }, change: label },
      { games: { accuracy: 'x' }, change: label },
    ])
      expect(await change(wrong)).toEqual([400, 'malformed']);
    const put = { do: 'put', collection: Number(NOBODY) };
    expect(await change({ games: { ids: [own] }, change: put })).toEqual([404, 'missing']);
  });

  it('to filters that are to be kept, with what of them is understood', async () => {
    const save = (body: object) => ask(saveFilter, { body });
    expect(
      await save({ name: '  My   wins ', query: 'outcome=won&accuracy=x&sort=-accuracy&to=evil' }),
    ).toEqual([
      201,
      { id: expect.any(Number) as number, name: 'My wins', query: 'outcome=won&sort=-accuracy' },
    ]);
    for (const wrong of [
      { name: ' ', query: '' },
      { name: 'x'.repeat(61), query: '' },
      { name: 'x' },
    ])
      expect(await save(wrong)).toEqual([400, 'malformed']);
  });

  it('to whose side one was', async () => {
    for (const side of [0, 1, null])
      expect(await ask(keepOwnSide, { id, body: { side } })).toEqual([204, null]);
    for (const body of [{ side: 2 }, { side: '0' }, {}])
      expect(await ask(keepOwnSide, { id, body })).toEqual([400, 'malformed']);
  });

  it('to steps', async () => {
    const own = await fresh();
    const comment = { type: 'annotate', node: 1, field: 'comment', value: 'mine' };
    const save = (version: number, ...steps: object[]) =>
      ask(saveSteps, { id: own, body: { version, steps } });
    expect(await save(1, comment, { ...comment, value: 'better' })).toEqual([200, { version: 3 }]);
    expect(await save(1, comment)).toEqual([409, 'stale']);
    expect(await save(3, { type: 'remove', node: 77 })).toEqual([422, 'unfit']);
    expect(await save(9, comment)).toEqual([422, 'unfit']);
    expect(await save(0, comment)).toEqual([400, 'malformed']);
    expect(await save(2 ** 31, comment)).toEqual([400, 'malformed']);
    expect(await save(3)).toEqual([400, 'malformed']);
    expect(await save(3, ...Array.from({ length: 501 }, () => comment))).toEqual([
      400,
      'malformed',
    ]);
    expect(await save(3, ...Array.from({ length: 500 }, () => comment))).toEqual([
      200,
      { version: 503 },
    ]);
    const since = (version: string) => ask(changes, { id: own, query: `?since=${version}` });
    expect(await since('502')).toEqual([200, { version: 503, steps: [comment] }]);
    expect(await since('503')).toEqual([200, { version: 503, steps: [] }]);
    expect(await since('504')).toEqual([404, 'missing']);
    for (const wrong of ['', 'x', '-1', '1.5', String(2 ** 31)])
      expect((await since(wrong))[0]).toBe(wrong === '' ? 404 : 400);
    expect(await ask(changes, { id: own })).toEqual([400, 'malformed']);
  });

  it('to a sweep, once at a time, and to its review', async () => {
    const own = await fresh();
    expect(await ask(findReview, { id: own })).toEqual([200, { sweep: null, shown: null }]);
    expect(await ask(stopSweep, { id: own })).toEqual([404, 'missing']);
    const [status, started] = await ask(startSweep, { id: own, body: sweep });
    expect(status).toBe(202);
    expect(started).toMatchObject({ state: 'queued', settings: 'depth 4 lines 1', total: 4 });
    // nothing that a page has no use for
    expect(Object.keys(started as object)).not.toContain('ownerId');
    expect(await ask(startSweep, { id: own, body: { nodes: 500, lines: 2 } })).toEqual([
      202,
      started,
    ]);
    expect(await ask(findReview, { id: own })).toEqual([200, { sweep: started, shown: null }]);
    for (const body of [
      { depth: 4 },
      { lines: 1 },
      { depth: 0, lines: 1 },
      { ...sweep, nodes: 500 },
      { average: { depth: 5 } },
      { average: { nodes: 99 } },
      { average: { nodes: 500, milliseconds: 500 } },
      { average: { nodes: 500 }, lines: 1 },
    ])
      expect(await ask(startSweep, { id: own, body })).toEqual([400, 'malformed']);
    for (const query of [
      '?has=x',
      '?known=1,2',
      '?known=A',
      '?complete=2',
      `?known=${'1'.repeat(12_002)}`,
    ])
      expect(await ask(findReview, { id: own, query })).toEqual([400, 'malformed']);
    expect(await ask(findReview, { id: own, query: '?has=1&known=02z0' })).toMatchObject([200, {}]);
    expect(await ask(stopSweep, { id: own })).toEqual([204, null]);
    expect(await ask(stopSweep, { id: own })).toEqual([404, 'missing']);
    expect(await ask(think, { id: own, body: { side: 0, stop: 0, move: 'e2e4' } })).toEqual([
      400,
      'malformed',
    ]);
  });

  it('to sweeps of many games', async () => {
    const body = { onlyNew: false, settings: { average: { nodes: 1000 } } };
    for (const wrong of [
      { ...body, kind: 'go' },
      { ...body, text: 'x'.repeat(101) },
      { ...body, settings: {} },
      { settings: body.settings },
    ])
      expect(await ask(startBatch, { body: wrong })).toEqual([400, 'malformed']);
    const nobody = { ...body, text: 'nobody of this name' };
    expect(await ask(startBatch, { body: nobody })).toEqual([422, 'empty']);
    const [status, batch] = await ask(startBatch, { body });
    expect([status, batch]).toMatchObject([201, { state: 'running', done: 0 }]);
    expect(await ask(listBatches)).toEqual([200, [batch]]);
    const { id: own } = batch as { id: number };
    const pause = { id: own, body: { paused: true } };
    expect(await ask(pauseBatch, pause)).toEqual([200, { ...(batch as object), state: 'paused' }]);
    expect(await ask(hurryBatch, { id: own })).toEqual([
      200,
      { ...(batch as object), state: 'paused' },
    ]);
    expect(await ask(hurryBatch, { id: NOBODY })).toEqual([404, 'missing']);
    expect(await ask(pauseBatch, { id: own, body: {} })).toEqual([400, 'malformed']);
    expect(await ask(pauseBatch, { ...pause, id: NOBODY })).toEqual([404, 'missing']);
    expect(await ask(stopBatch, { id: NOBODY })).toEqual([404, 'missing']);
    expect(await ask(stopBatch, { id: own })).toEqual([204, null]);
    expect(await ask(stopBatch, { id: own })).toEqual([404, 'missing']);
    expect(await ask(hurryBatch, { id: own })).toEqual([404, 'missing']);
    expect(await ask(pauseBatch, pause)).toEqual([404, 'missing']);
  });

  it('to what games of a batch are chosen', async () => {
    const own = await fresh();
    const start = (ids: unknown) =>
      ask(startBatch, { body: { ids, onlyNew: false, settings: sweep } });
    expect((await start([own]))[1]).toMatchObject({ games: 1 });
    expect(await start([Number(NOBODY)])).toEqual([422, 'empty']);
    for (const wrong of [[], [-1], ['1'], Array.from({ length: 1001 }, () => own)])
      expect(await start(wrong)).toEqual([400, 'malformed']);
  });

  it('to bases', async () => {
    const make = (body: unknown) => ask(makeBase, { body });
    const files = { name: 'Asked by route', kind: 'chess', source: { from: 'files' } };
    for (const wrong of [
      { ...files, name: ' ' },
      { ...files, name: 'x'.repeat(61) },
      { ...files, kind: 'go' },
      { ...files, source: { from: 'collection' } },
      { ...files, source: { from: 'elsewhere' } },
      { kind: 'chess', source: files.source },
    ])
      expect(await make(wrong)).toEqual([400, 'malformed']);
    expect(await make({ ...files, source: { from: 'collection', id: Number(NOBODY) } })).toEqual([
      404,
      'missing',
    ]);
    const [status, base] = await make(files);
    expect([status, base]).toMatchObject([201, { name: 'Asked by route', games: 0, indexed: 0 }]);
    expect(await make(files)).toEqual([409, 'taken']);
    const { id } = base as { id: number };
    expect(await ask(listBases, { query: '?kind=chess' })).toMatchObject([200, [{ id }]]);
    expect(await ask(listBases, { query: '?kind=shogi' })).toEqual([200, []]);
    expect(await ask(listBases, { query: '?kind=go' })).toEqual([400, 'malformed']);

    const start = encodeURIComponent('rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1');
    const asked = (more = '', position = start) => ({ id, query: `?position=${position}${more}` });
    for (const handler of [askBase, askOnward, listBaseGames]) {
      expect(await ask(handler, asked())).toMatchObject([200, {}]);
      for (const right of ['rating=1500..', 'rating=..1800', 'years=2010..2012', 'fromStart=no'])
        expect(await ask(handler, asked(`&${right}`))).toMatchObject([200, {}]);
      for (const wrong of [
        'rating=..',
        'rating=1500',
        'rating=15000..16000',
        'years=then..now',
        'timeClass=slow',
        'rated=maybe',
        'result=win',
        'player=',
        `player=${'x'.repeat(101)}`,
        'side=third',
      ])
        expect([wrong, await ask(handler, asked(`&${wrong}`))]).toEqual([
          wrong,
          [400, 'malformed'],
        ]);
      expect(await ask(handler, asked('', ''))).toEqual([400, 'malformed']);
      expect(await ask(handler, asked('', 'x'.repeat(201)))).toEqual([400, 'malformed']);
      expect(await ask(handler, asked('', 'nonsense'))).toEqual([422, 'unfit']);
      expect(await ask(handler, { ...asked(), id: NOBODY })).toEqual([404, 'missing']);
    }
    expect(await ask(listBaseGames, asked('&order=oldest'))).toEqual([400, 'malformed']);
    expect(await ask(findBaseGame, { id, query: '?number=0' })).toEqual([404, 'missing']);
    expect(await ask(findBaseGame, { id, query: '?number=-1' })).toEqual([400, 'malformed']);
    expect(await ask(takeImport, { query: `?name=a.pgn&base=${NOBODY}`, body: 'x' })).toEqual([
      404,
      'missing',
    ]);
    expect(await ask(listDepartures, { id: await fresh() })).toEqual([200, []]);
    expect(await ask(listDepartures, { id: NOBODY })).toEqual([404, 'missing']);
    expect(await ask(removeBase, { id })).toEqual([204, null]);
    expect(await ask(removeBase, { id })).toEqual([404, 'missing']);
  });

  it('to which moves a sweep is to go over', async () => {
    const start = async (moves: unknown) =>
      ask(startSweep, { id: await fresh(), body: { average: { nodes: 1000 }, moves } });
    const [status, answer] = await start({ side: 1, from: 2, to: 3 });
    expect([status, answer]).toMatchObject([
      202,
      { settings: 'average nodes 1000 side 1 from 2 to 3' },
    ]);
    expect((await start({ over: 'both', side: 0 }))[1]).toMatchObject({
      settings: 'average nodes 1000 side 0 over both',
    });
    for (const wrong of [
      { over: 'all' },
      { side: 2 },
      { from: 3, to: 2 },
      { from: 0 },
      { to: 1e9 },
      { up: 1 },
    ])
      expect(await start(wrong)).toEqual([400, 'malformed']);
  });

  it('to whether a sweep is set beside the one before it', async () => {
    const own = await fresh();
    const compare = (body: unknown) => ask(compareSweep, { id: own, body });
    // there is none
    expect(await compare({ beside: false })).toEqual([404, 'missing']);
    await ask(startSweep, { id: own, body: sweep });
    expect(await compare({})).toEqual([400, 'malformed']);
    expect(await compare({ beside: 1 })).toEqual([400, 'malformed']);
  });

  it('to how an import is gone over', async () => {
    const take = async (query: string): Promise<number> =>
      (
        await takeImport(
          new Request(`http://${HOST}/api/imports${query}`, {
            method: 'POST',
            headers: { host: HOST, cookie },
            body: '1. e4 *',
          }),
          { params: Promise.resolve(undefined) } as never,
        )
      ).status;
    expect(await take('?name=a.pgn&sweep=average nodes 1000')).toBe(202);
    for (const wrong of ['', 'quick', 'average nodes 1', 'average nodes 1000 side 7'])
      expect(await take(`?name=a.pgn&sweep=${wrong}`)).toBe(400);
    const tags = (count: number) =>
      Array.from({ length: count }, (_, tag) => `&label=t${tag}`).join('');
    expect(await take(`?name=a.pgn${tags(20)}`)).toBe(202);
    for (const wrong of ['&copies=2', '&collection=x', '&player=0', '&label=', tags(21)])
      expect(await take(`?name=a.pgn${wrong}`), wrong).toBe(400);
    expect(await take('?name=a.pgn&collection=999999')).toBe(404);
  });

  it('to what of an import did not go in', async () => {
    const { id } = await queued(await demoOwner(), 'b.pgn', [Buffer.from('1. e5 *')]);
    const failed = (of: number, query: string) => ask(findFailed, { id: of, query });
    expect(await failed(id, '?as=all')).toEqual([400, 'malformed']);
    expect(await failed(id, '?as=games')).toEqual([404, 'missing']);
  });

  it('to how fast sweeps have been', async () => {
    expect(await ask(findSpeed, { query: '?kind=shogi' })).toMatchObject([
      200,
      { nodesPerSecond: null },
    ]);
    expect(await ask(findSpeed, { query: '?kind=other' })).toEqual([400, 'malformed']);
  });

  it('to how findings are to be remarked in what goes out', async () => {
    const own = await fresh();
    const status = async (query: string): Promise<number> =>
      (
        await exportGame(
          new Request(`http://${HOST}/api${query}`, { headers: { host: HOST, cookie } }),
          {
            params: Promise.resolve({ id: String(own) }),
          },
        )
      ).status;
    for (const wrong of ['least=0', 'form=loud', 'lineMoves=61', 'evaluations=perhaps'])
      expect(await status(`?format=pgn&${wrong}`)).toBe(400);
    expect(await status('?format=pgn&least=12&form=words')).not.toBe(400);
  });

  it('to studies', async () => {
    const own = await fresh();
    const start = (change: object) => ask(startStudy, { id: own, body: { ...study, ...change } });
    const [status, started] = await start({ way: ['e2e4', 'c7c5'] });
    expect(status).toBe(201);
    expect(started).toMatchObject({
      gameId: own,
      engine: null,
      state: 'queued',
      position: { node: ROOT, moves: ['e2e4', 'c7c5'] },
      answer: null,
    });
    const { id: one } = started as { id: number };
    expect(await ask(findStudy, { id: one })).toEqual([200, started]);
    expect(await ask(listStudies, { id: own })).toEqual([200, [started]]);
    expect(await start({ node: 77 })).toEqual([404, 'missing']);
    expect(await start({ way: ['e2e5'] })).toEqual([422, 'unfit']);
    expect(await start({ engine: 'Nobody' })).toEqual([403, 'engine']);
    for (const wrong of [
      { lines: 0 },
      { lines: 9 },
      { seconds: 0 },
      { seconds: 601 },
      { node: -1 },
    ])
      expect(await start(wrong)).toEqual([400, 'malformed']);
    for (let count = 1; count < 20; count++) expect((await start({}))[0]).toBe(201);
    expect(await start({})).toEqual([429, 'tooMany']);
    expect(await ask(removeStudy, { id: one })).toEqual([204, null]);
    expect(await ask(removeStudy, { id: one })).toEqual([404, 'missing']);
    expect(await ask(findStudy, { id: one })).toEqual([404, 'missing']);
    expect((await start({}))[0]).toBe(201);
  });

  it('to where a position came up, and which engines there are', async () => {
    const where = (query: Record<string, string>) =>
      ask(findPosition, { query: `?${new URLSearchParams(query)}` });
    const position = 'rnbqkbnr/pppp1ppp/8/4p3/4P3/8/PPPP1PPP/RNBQKBNR w KQkq - 0 2';
    const [status, found] = await where({ kind: 'chess', position });
    expect(status).toBe(200);
    const { occurrences, total } = found as { occurrences: object[]; total: number };
    expect(occurrences).toHaveLength(total);
    expect(occurrences).toContainEqual(
      expect.objectContaining({ gameId: id, node: 2, next: 'Nf3' }),
    );
    const others = (await where({ kind: 'chess', position, except: String(id) }))[1];
    expect((others as { total: number }).total).toBe(total - 1);
    expect(await where({ kind: 'go', position })).toEqual([400, 'malformed']);
    expect(await where({ kind: 'chess' })).toEqual([400, 'malformed']);
    expect(await where({ kind: 'chess', position, except: '-1' })).toEqual([400, 'malformed']);
    expect(await where({ kind: 'chess', position: '8/8/8/8/8/8/8/8 w - - 0 1' })).toEqual([
      400,
      'position.noKing',
    ]);
    expect(await ask(listEngines, { query: '?kind=chess' })).toEqual([200, []]);
    expect(await ask(listEngines, { query: '?kind=go' })).toEqual([400, 'malformed']);
  });
});
