import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, request, test, type APIRequestContext, type APIResponse } from '@playwright/test';
import { pgn } from './support';

const APP = 'src/app';
const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
type Method = (typeof METHODS)[number];

const PASSWORD = 'a long enough password';
const sweep = { nodes: 2000, lines: 1 };
/** Nobody waits for its end. */
const LONG = { nodes: 50_000_000, lines: 3 };
const study = { node: 0, way: [], engine: null, lines: 1 };
/** An ending, so that there is something to prove. */
const ENDING = '4k3/8/8/8/8/4p3/3QP3/4K3 w - - 0 1';
const proof = { node: 0, way: [] };

/** What somebody must have to be let in: nothing, an account, a right on a game, or the thing itself. */
type Need = 'nothing' | 'account' | 'read' | 'comment' | 'edit' | 'own' | 'mine';

/** Of the owner's things, what a request can be about. */
interface Things {
  game: number;
  study: number;
  proof: number;
  import: number;
  batch: number;
  grant: number;
  collection: number;
  link: string;
  player: number;
  filter: number;
  base: number;
  sheet: number;
}

interface Door {
  needs: Need;
  /** What is in the place of `[id]` or `[link]`. */
  of?: keyof Things;
  query?: string;
  body?: unknown;
  /** The owner may find nothing there: it was over before it was asked for, or never was. */
  mayBeOver?: boolean;
  /** What the owner does first, so that there is something to ask for. */
  first?(owner: APIRequestContext, things: Things): Promise<void>;
}

const newStudy = async (owner: APIRequestContext, things: Things): Promise<void> => {
  await owner.delete(`/api/studies/${things.study}`);
  const answer = await owner.post(`/api/games/${things.game}/studies`, { data: study });
  things.study = ((await answer.json()) as { id: number }).id;
};
const newProof = async (owner: APIRequestContext, things: Things): Promise<void> => {
  await owner.delete(`/api/proofs/${things.proof}`);
  const answer = await owner.post(`/api/games/${things.game}/proofs`, { data: proof });
  expect(answer.status()).toBe(201);
  things.proof = ((await answer.json()) as { id: number }).id;
};
const newSweep = async (owner: APIRequestContext, { game }: Things): Promise<void> => {
  // neither one that is under way and short, nor one whose answers are known: it would be over before it is called off
  await owner.delete(`/api/games/${game}/sweep`);
  const nodes = LONG.nodes + Math.floor(1_000_000 * Math.random());
  await owner.post(`/api/games/${game}/sweep`, { data: { ...LONG, nodes } });
};
const newGrant = async (owner: APIRequestContext, things: Things): Promise<void> => {
  const scope = { of: 'all' };
  const data = { scope, to: null, right: 'read', until: null };
  things.grant = ((await (await owner.post('/api/grants', { data })).json()) as { id: number }).id;
};
const newCollection = async (owner: APIRequestContext, things: Things): Promise<void> => {
  const answer = await owner.post('/api/collections', { data: { name: `c${Math.random()}` } });
  things.collection = ((await answer.json()) as { id: number }).id;
};

const newFilter = async (owner: APIRequestContext, things: Things): Promise<void> => {
  const answer = await owner.post('/api/filters', { data: { name: 'Losses', query: '' } });
  things.filter = ((await answer.json()) as { id: number }).id;
};

const newBase = async (owner: APIRequestContext, things: Things): Promise<void> => {
  const data = { name: `b${Math.random()}`, kind: 'chess', source: { from: 'files' } };
  things.base = ((await (await owner.post('/api/bases', { data })).json()) as { id: number }).id;
};
const newSheet = async (owner: APIRequestContext, things: Things): Promise<void> => {
  const start = 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1';
  const nodes = [{ id: 0, parent: null, move: '' }];
  const lines = { kind: 'chess', start, nodes, tags: [], result: '*', end: null };
  const data = { lines, name: `s${Math.random()}` };
  const answer = await owner.post(`/api/preparation?${WHITE}`, { data });
  things.sheet = ((await answer.json()) as { id: number }).id;
};
const WHITE = 'kind=chess&side=first';
const START = `position=${encodeURIComponent('rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1')}`;

/** Every way into the app; one that is not here fails the test. */
const DOORS: Record<string, Door> = {
  'GET api/health': { needs: 'nothing' },
  'GET api/endings': {
    needs: 'nothing',
    query: '?position=8/8/8/4k3/8/8/4P3/4K3%20w%20-%20-%200%201',
  },
  'GET api/endings/plan': {
    needs: 'account',
    query: `?position=${encodeURIComponent(ENDING)}`,
  },
  'POST api/account': { needs: 'nothing', body: { name: 'x', password: 'y' } },
  'POST api/account/session': { needs: 'nothing', body: { name: 'x' } },
  'POST api/account/demo': { needs: 'nothing' },
  'DELETE api/account/session': { needs: 'nothing' },
  'PUT api/account': { needs: 'account', body: { current: 'wrong', password: PASSWORD } },
  'POST api/account/close': { needs: 'account', body: { password: 'wrong' } },
  'GET api/account/archive': { needs: 'account' },
  'GET api/bases': { needs: 'account' },
  'POST api/bases': {
    needs: 'account',
    body: { name: 'Mine', kind: 'chess', source: { from: 'files' } },
  },
  'GET api/bases/[id]/game': {
    needs: 'mine',
    of: 'base',
    query: '?number=0',
    mayBeOver: true,
  },
  'GET api/bases/[id]/games': { needs: 'mine', of: 'base', query: `?${START}` },
  'GET api/bases/[id]/moves': { needs: 'mine', of: 'base', query: `?${START}` },
  'GET api/bases/[id]/onward': { needs: 'mine', of: 'base', query: `?${START}` },
  'GET api/bases/[id]/players': { needs: 'mine', of: 'base', query: '?name=m' },
  'DELETE api/bases/[id]': { needs: 'mine', of: 'base', first: newBase },
  'GET api/batches': { needs: 'account' },
  'POST api/batches': { needs: 'account', body: { onlyNew: true, settings: sweep } },
  'PUT api/batches/[id]': { needs: 'mine', of: 'batch', body: { paused: true } },
  'POST api/batches/[id]/first': { needs: 'mine', of: 'batch' },
  'DELETE api/batches/[id]': { needs: 'mine', of: 'batch' },
  'POST api/collections': { needs: 'account', body: { name: 'Studies' } },
  'PUT api/collections/[id]': { needs: 'mine', of: 'collection', body: { name: 'Others' } },
  'DELETE api/collections/[id]': { needs: 'mine', of: 'collection', first: newCollection },
  'GET api/preparation': { needs: 'account', query: `?${WHITE}` },
  'POST api/preparation': { needs: 'account', query: `?${WHITE}`, body: {} },
  'POST api/preparation/own': { needs: 'account', query: `?${WHITE}`, body: {} },
  'GET api/preparation/tree': { needs: 'account', query: `?${WHITE}` },
  'GET api/preparation/games': { needs: 'account', query: `?${WHITE}` },
  'GET api/preparation/doubts': { needs: 'account', query: `?${WHITE}` },
  'GET api/preparation/position': { needs: 'account', query: `?kind=chess&${START}` },
  'PUT api/preparation/[id]': { needs: 'mine', of: 'sheet', first: newSheet, mayBeOver: true },
  'DELETE api/preparation/[id]': { needs: 'mine', of: 'sheet', first: newSheet },
  'GET api/engines': { needs: 'account', query: '?kind=chess' },
  'POST api/filters': { needs: 'account', body: { name: 'Wins', query: 'outcome=won' } },
  'DELETE api/filters/[id]': { needs: 'mine', of: 'filter', first: newFilter },
  'GET api/games': { needs: 'account' },
  'PUT api/games': {
    needs: 'account',
    body: { games: { ids: [1] }, change: { do: 'label', label: 'theirs' } },
  },
  'POST api/games': { needs: 'account', query: '?copy=1', body: {} },
  'GET api/games/export': { needs: 'account', query: '?format=csv' },
  'GET api/games/[id]/export': { needs: 'read', of: 'game', query: '?format=pgn' },
  'GET api/games/[id]/preparation': { needs: 'read', of: 'game' },
  'GET api/games/left': { needs: 'account', query: '?games=1' },
  'GET api/games/[id]/departures': { needs: 'read', of: 'game' },
  'PUT api/games/[id]/own-side': { needs: 'edit', of: 'game', body: { side: 0 } },
  'GET api/games/[id]/moment': { needs: 'read', of: 'game', query: '?ply=1' },
  'GET api/games/[id]/review': { needs: 'read', of: 'game' },
  'GET api/games/[id]/steps': { needs: 'read', of: 'game', query: '?since=1' },
  'POST api/games/[id]/steps': {
    needs: 'comment',
    of: 'game',
    body: { version: 999, steps: [{ type: 'remove', node: 1 }] },
  },
  'GET api/games/[id]/proofs': { needs: 'read', of: 'game' },
  'POST api/games/[id]/proofs': { needs: 'edit', of: 'game', body: proof },
  'DELETE api/proofs/[id]': { needs: 'edit', of: 'proof', first: newProof },
  'GET api/games/[id]/studies': { needs: 'read', of: 'game' },
  'POST api/games/[id]/studies': { needs: 'edit', of: 'game', body: study },
  'POST api/games/[id]/sweep': { needs: 'edit', of: 'game', body: sweep },
  'PUT api/games/[id]/sweep': { needs: 'edit', of: 'game', body: { beside: true } },
  'DELETE api/games/[id]/sweep': { needs: 'edit', of: 'game', first: newSweep },
  'POST api/games/[id]/think': {
    needs: 'read',
    of: 'game',
    body: { side: null, stop: 1, move: 'd2d8' },
  },
  'GET api/grants': { needs: 'account' },
  'POST api/grants': {
    needs: 'account',
    body: { scope: { of: 'all' }, to: null, right: 'read', until: null },
  },
  'DELETE api/grants/[id]': { needs: 'mine', of: 'grant', first: newGrant },
  'POST api/imports': { needs: 'account', query: '?name=a.pgn' },
  'GET api/imports/[id]': { needs: 'mine', of: 'import' },
  'GET api/imports/[id]/failed': { needs: 'mine', of: 'import', query: '?as=report' },
  'DELETE api/imports/[id]': { needs: 'mine', of: 'import', mayBeOver: true },
  'GET api/players': { needs: 'account' },
  'PUT api/players/[id]': { needs: 'mine', of: 'player', body: { isSelf: true } },
  'GET api/positions': { needs: 'account', query: '?kind=chess&position=8/8/8/8/8/8/8/8' },
  'GET api/speed': { needs: 'account' },
  'GET api/studies/[id]': { needs: 'read', of: 'study', first: newStudy },
  'DELETE api/studies/[id]': { needs: 'edit', of: 'study', first: newStudy },
  'GET shared/[link]': { needs: 'nothing', of: 'link' },
  'page /': { needs: 'account' },
  'page account': { needs: 'account' },
  'page bases': { needs: 'account' },
  'page preparation': { needs: 'account' },
  'page desk': { needs: 'account', query: '?kind=chess' },
  'page games/[id]': { needs: 'read', of: 'game' },
  'page games/[id]/print': { needs: 'read', of: 'game' },
  'page games/[id]/question': { needs: 'read', of: 'game' },
  'page games/[id]/think': { needs: 'read', of: 'game' },
  'page games/new': { needs: 'account' },
  'page endings': { needs: 'account' },
  'page lessons': { needs: 'account' },
  'page players': { needs: 'account' },
  'page players/[id]': { needs: 'mine', of: 'player' },
  'page setup': { needs: 'account' },
  'page sign-in': { needs: 'nothing' },
};

/** Behind these, somebody may do more or less than before. */
const CHANGING = ['DELETE api/account/session', 'POST api/account/demo', 'GET shared/[link]'];

/** Looked at in tests of their own: an event stream does not end, and lists of grants are told from each other by who asks. */
const ELSEWHERE = ['GET api/events', 'GET api/grants/[id]/games', 'page given', 'page given/[id]'];

/** The ways into the app, as its files say. */
function doorsOfApp(): string[] {
  return readdirSync(APP, { recursive: true, encoding: 'utf8' })
    .flatMap((file) => {
      const place = file.replace(/\/?(route|page)\.tsx?$/, '');
      if (file.endsWith('page.tsx')) return [`page ${place || '/'}`];
      if (!file.endsWith('route.ts')) return [];
      const text = readFileSync(join(APP, file), 'utf8');
      return METHODS.filter((method) =>
        new RegExp(`export (const|(async )?function) ${method}\\b`).test(text),
      ).map((method) => `${method} ${place}`);
    })
    .sort();
}

const RIGHTS = ['read', 'comment', 'edit', 'own'];

/** Who asks: what they may do with the game, and whether they have an account. */
interface Actor {
  name: string;
  right: (typeof RIGHTS)[number] | null;
  account: boolean;
  context: APIRequestContext;
}

let baseURL: string;
const nobody = (): Promise<APIRequestContext> =>
  request.newContext({ baseURL, storageState: { cookies: [], origins: [] }, maxRedirects: 0 });

async function newAccount(name: string): Promise<APIRequestContext> {
  const context = await nobody();
  const made = await context.post('/api/account', { data: { name, password: PASSWORD } });
  expect(made.status(), name).toBe(204);
  return context;
}

const reviewAt = (id: number): string => `/api/games/${id}/review`;

async function grantsOf(
  owner: APIRequestContext,
  game: number,
): Promise<{ id: number; grantee: string | null }[]> {
  const answer = await owner.get(`/api/grants?game=${game}`);
  return (await answer.json()) as { id: number; grantee: string | null }[];
}

async function gameOf(owner: APIRequestContext): Promise<number> {
  const queued = await owner.post('/api/imports?name=a.pgn&copies=1', {
    data: Buffer.from(
      pgn(`Rights ${Math.random()}`, '1. Qd8+ Kxd8 2. Kd1 Ke7 1/2-1/2').replace(
        '[Result',
        `[SetUp "1"]\n[FEN "${ENDING}"]\n[Result`,
      ),
    ),
  });
  const { id } = (await queued.json()) as { id: number };
  let games: number[] = [];
  await expect
    .poll(async () => {
      const status = await owner.get(`/api/imports/${id}`);
      games = ((await status.json()) as { gameIds: number[] }).gameIds;
      return games.length;
    })
    .toBe(1);
  return games[0]!;
}

async function importOf(owner: APIRequestContext): Promise<number> {
  const queued = await owner.post('/api/imports?name=a.pgn', { data: Buffer.from('no game') });
  return ((await queued.json()) as { id: number }).id;
}

test.describe.configure({ mode: 'serial' });

test('who may come through which door', async ({ baseURL: base }) => {
  test.setTimeout(400_000);
  baseURL = base!;
  const doors = doorsOfApp();
  expect(doors.filter((door) => !ELSEWHERE.includes(door))).toEqual(Object.keys(DOORS).sort());

  const tail = ` ${Date.now()}`;
  const owner = await newAccount(`Owner${tail}`);
  const game = await gameOf(owner);
  const collected = await owner.post('/api/collections', { data: { name: 'Club' } });
  const collection = ((await collected.json()) as { id: number }).id;
  const put = { games: { ids: [game] }, change: { do: 'put', collection } };
  expect((await owner.put('/api/games', { data: put })).status()).toBe(200);
  const give = async (scope: object, to: string | null, right: string, until?: string) => {
    const data = { scope, to, right, until: until ?? null };
    const made = await owner.post('/api/grants', { data });
    expect(made.status()).toBe(201);
    return (await made.json()) as { id: number; link: string | null };
  };
  const one = { of: 'game', id: game };
  const actors: Actor[] = [];
  const actor = async (name: string, right: Actor['right'], scope: object, until?: string) => {
    const context = await newAccount(`${name}${tail}`);
    if (right) await give(scope, `${name}${tail}`.toUpperCase(), right, until);
    actors.push({ name, right, account: true, context });
    return context;
  };
  await actor('Reader', 'read', one);
  await actor('Commenter', 'comment', one);
  await actor('Editor', 'edit', one);
  await actor('Collected', 'comment', { of: 'collection', id: collection });
  await actor('Coach', 'edit', { of: 'all' });
  await actor('Today', 'read', one, new Date().toISOString().slice(0, 10));
  await actor('Stranger', null, one);
  // what has ended or was withdrawn counts no more
  const late = await actor('Late', 'edit', one, '2020-01-01');
  const dropped = await actor('Dropped', 'edit', one);
  for (const gone of actors.filter(({ name }) => name === 'Late' || name === 'Dropped'))
    gone.right = null;
  const given = await grantsOf(owner, game);
  await owner.delete(
    `/api/grants/${given.find(({ grantee }) => grantee === `Dropped${tail}`)!.id}`,
  );
  for (const gone of [late, dropped]) expect((await gone.get(reviewAt(game))).status()).toBe(404);

  const { link } = await give({ of: 'collection', id: collection }, null, 'read');
  const visitor = await nobody();
  expect((await visitor.get(`/shared/${link}`)).status()).toBe(303);
  actors.push({ name: 'Visitor', right: 'read', account: false, context: visitor });
  actors.push({ name: 'Nobody', right: null, account: false, context: await nobody() });
  actors.push({ name: 'Owner', right: 'own', account: true, context: owner });

  await owner.post(`/api/games/${game}/sweep`, { data: sweep });
  const review = async (): Promise<string | undefined> => {
    const answer = await owner.get(reviewAt(game));
    return ((await answer.json()) as { sweep: { state: string } | null }).sweep?.state;
  };
  await expect.poll(review, { timeout: 60_000 }).toBe('done');
  const batch = await owner.post('/api/batches', { data: { onlyNew: false, settings: LONG } });
  const things: Things = {
    game,
    study: 0,
    proof: 0,
    import: await importOf(owner),
    batch: ((await batch.json()) as { id: number }).id,
    grant: 0,
    collection,
    link: link!,
    filter: 0,
    base: 0,
    sheet: 0,
    player: Number(/\/players\/(\d+)/.exec(await (await owner.get('/players')).text())![1]),
  };

  await newBase(owner, things);

  for (const [name, door] of Object.entries(DOORS)) {
    const [kind, place] = name.split(' ') as [Method | 'page', string];
    const ask = async ({ name: who, right, account, context }: Actor): Promise<void> => {
      await door.first?.(owner, things);
      const of = door.of && String(things[door.of]);
      const path =
        `/${place === '/' ? '' : place}`.replace(/\[\w+\]/, of ?? '') + (door.query ?? '');
      // who goes through these is another from then on
      const asking = CHANGING.includes(name) ? await nobody() : context;
      const answer =
        kind === 'page'
          ? await asking.get(path)
          : await asking.fetch(path, {
              method: kind,
              ...(door.body === undefined ? {} : { data: door.body }),
            });
      const outcome = await outcomeOf(kind, answer);
      const isOver = door.mayBeOver === true && right === 'own' && outcome === 'missing';
      if (!isOver)
        expect(outcome, `${name} as ${who}`).toBe(expected(kind, door.needs, { right, account }));
      things.collection = collection;
    };
    const changesNothing = (kind === 'page' || kind === 'GET') && !door.first;
    if (changesNothing) await Promise.all(actors.map(ask));
    else for (const actor of actors) await ask(actor);
  }
  // what is deleted is there for nobody until it is brought back
  const change = { do: 'delete' };
  await owner.put('/api/games', { data: { games: { ids: [game] }, change } });
  for (const [name, { needs, of, query = '', body }] of Object.entries(DOORS)) {
    if (of !== 'game') continue;
    const [kind, place] = name.split(' ') as [Method | 'page', string];
    const path = `/${place.replace('[id]', String(game))}${query}`;
    for (const { name: who, account, context } of actors) {
      const method = kind === 'page' ? 'GET' : kind;
      const answer = await context.fetch(path, { method, ...(body ? { data: body } : {}) });
      const none = expected(kind, needs, { right: null, account });
      expect(await outcomeOf(kind, answer), `${name} as ${who}, deleted`).toBe(none);
    }
  }
  for (const { account, context } of actors) {
    if (account) await context.post('/api/account/close', { data: { password: PASSWORD } });
    await context.dispose();
  }
});

type Outcome = 'in' | 'right' | 'missing' | 'signedOut';

function expected(
  kind: string,
  needs: Need,
  { right, account }: Omit<Actor, 'name' | 'context'>,
): Outcome {
  if (needs === 'nothing') return 'in';
  if (needs === 'account') return account ? 'in' : 'signedOut';
  if (needs === 'mine') return right === 'own' ? 'in' : account ? 'missing' : 'signedOut';
  if (right === null) return account ? 'missing' : 'signedOut';
  if (RIGHTS.indexOf(right) >= RIGHTS.indexOf(needs)) return 'in';
  return kind === 'page' ? 'missing' : 'right';
}

/** Whether somebody was let in, whatever came of it. */
async function outcomeOf(kind: string, answer: APIResponse): Promise<Outcome> {
  const status = answer.status();
  if (status === 401) return 'signedOut';
  if (status === 404) return 'missing';
  if (kind === 'page' && status === 307)
    return answer.headers().location?.startsWith('/sign-in') ? 'signedOut' : 'in';
  if (status === 403 && ((await answer.json()) as { error: string }).error === 'right')
    return 'right';
  expect(status, answer.url()).toBeLessThan(500);
  return 'in';
}

/** What is heard of on an event stream until it is closed. */
async function listen(
  context: APIRequestContext,
): Promise<{ status: number; heard: string[]; close(): void }> {
  const { cookies } = await context.storageState();
  const stop = new AbortController();
  const heard: string[] = [];
  const answer = await fetch(`${baseURL}api/events`, {
    headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
    signal: stop.signal,
  });
  const read = async (): Promise<void> => {
    for await (const piece of answer.body!) heard.push(Buffer.from(piece as Uint8Array).toString());
  };
  void read().catch(() => undefined);
  return { status: answer.status, heard, close: () => stop.abort() };
}

test('who hears of what happens, and what others have been given', async ({ baseURL: base }) => {
  baseURL = base!;
  const tail = ` ${Date.now()}`;
  const [owner, reader, stranger] = await Promise.all(
    ['Teller', 'Hearer', 'Passer'].map((name) => newAccount(`${name}${tail}`)),
  );
  const game = await gameOf(owner!);
  const scope = { of: 'game', id: game };
  const give = async (to: string | null) => {
    const made = await owner!.post('/api/grants', {
      data: { scope, to, right: 'read', until: null },
    });
    return (await made.json()) as { id: number; link: string };
  };
  const toReader = await give(`Hearer${tail}`);
  const visitor = await nobody();
  const { id: linkGrant, link } = await give(null);
  await visitor.get(`/shared/${link}`);

  const unknown = await nobody();
  expect((await listen(unknown)).status).toBe(401);
  const ears = await Promise.all([owner!, reader!, visitor, stranger!].map(listen));
  const write = async (version: number): Promise<void> => {
    const step = { type: 'annotate', node: 1, field: 'comment', value: 'seen' };
    const saved = await owner!.post(`/api/games/${game}/steps`, {
      data: { version, steps: [step] },
    });
    expect(saved.status()).toBe(200);
  };
  const hears = () => ears.map(({ heard }) => heard.join('').split(`"gameId":${game}`).length - 1);
  await write(1);
  await expect.poll(hears).toEqual([1, 1, 1, 0]);
  // at once, and without a new stream
  for (const id of [toReader.id, linkGrant])
    expect((await owner!.delete(`/api/grants/${id}`)).status()).toBe(204);
  await write(2);
  await expect.poll(hears).toEqual([2, 1, 1, 0]);
  // and so does who is given it while they listen
  await give(`Passer${tail}`);
  await expect.poll(() => ears[3]!.heard.join('')).toContain('"grant"');
  await write(3);
  await expect.poll(hears).toEqual([3, 1, 1, 1]);
  await owner!.delete(`/api/grants/${(await grantsOf(owner!, game))[0]!.id}`);
  for (const ear of ears) ear.close();
  expect((await visitor.get(`/games/${game}`)).status()).toBe(307);
  expect((await visitor.get(`/shared/${link}`)).headers().location).toBe('/given?gone=1');

  const all = await owner!.post('/api/grants', {
    data: { scope: { of: 'all' }, to: `Hearer${tail}`, right: 'read', until: null },
  });
  const { id } = (await all.json()) as { id: number };
  const page = async (who: APIRequestContext, path: string): Promise<[number, boolean]> => {
    const answer = await who.get(path);
    return [answer.status(), (await answer.text()).includes(`Teller${tail}`)];
  };
  expect(await page(reader!, '/given')).toEqual([200, true]);
  expect(await page(reader!, `/given/${id}`)).toEqual([200, true]);
  const gamesBy = async (who: APIRequestContext, grant: number, query = '') => {
    const answer = await who.get(`/api/grants/${grant}/games${query}`);
    if (!answer.ok()) return answer.status();
    return ((await answer.json()) as { games: { id: number }[] }).games.map((one) => one.id);
  };
  expect(await gamesBy(reader!, id)).toEqual([game]);
  for (const [who, status] of [
    [stranger!, 404],
    [owner!, 404],
    [unknown, 401],
  ] as const)
    expect(await gamesBy(who, id)).toBe(status);
  // of a collection those that are in it, whatever is asked for; of one game, or a base, there is no list
  const other = await gameOf(owner!);
  const collected = await owner!.post('/api/collections', { data: { name: 'Some' } });
  const collection = ((await collected.json()) as { id: number }).id;
  const change = { do: 'put', collection };
  await owner!.put('/api/games', { data: { games: { ids: [other] }, change } });
  const giveTo = async (to: string | null, of: object) => {
    const data = { scope: of, to, right: 'read', until: null };
    const made = await owner!.post('/api/grants', { data });
    return (await made.json()) as { id: number; link: string };
  };
  const some = await giveTo(`Passer${tail}`, { of: 'collection', id: collection });
  for (const query of ['', '?collection=1', '?deleted=yes', '?label=x', '?opened=no&sort=labels'])
    expect(await gamesBy(stranger!, some.id, query), query).toEqual([other]);
  const single = await giveTo(`Passer${tail}`, scope);
  expect(await gamesBy(stranger!, single.id)).toBe(404);
  expect(await gamesBy(stranger!, id)).toBe(404);
  const open = await giveTo(null, { of: 'collection', id: collection });
  const opener = await nobody();
  expect(await gamesBy(opener, open.id)).toBe(401);
  await opener.get(`/shared/${open.link}`);
  expect(await gamesBy(opener, open.id)).toEqual([other]);
  await owner!.delete(`/api/grants/${open.id}`);
  expect(await gamesBy(opener, open.id)).toBe(401);
  await opener.dispose();
  await owner!.put('/api/games', { data: { games: { ids: [other] }, change: { do: 'delete' } } });
  expect(await gamesBy(stranger!, some.id)).toEqual([]);
  await owner!.delete(`/api/grants/${some.id}`);
  await owner!.delete(`/api/grants/${single.id}`);
  expect(await gamesBy(stranger!, some.id)).toBe(404);
  expect(await page(stranger!, '/given')).toEqual([200, false]);
  expect((await page(stranger!, `/given/${id}`))[0]).toBe(404);
  expect((await unknown.get('/given')).headers().location).toContain('/sign-in');
  expect((await unknown.get(`/given/${id}`)).status()).toBe(307);
  // who has been given something can let go of it
  expect((await stranger!.delete(`/api/grants/${id}`)).status()).toBe(404);
  expect((await reader!.delete(`/api/grants/${id}`)).status()).toBe(204);
  expect((await page(reader!, `/given/${id}`))[0]).toBe(404);
  for (const who of [owner!, reader!, stranger!]) {
    await who.post('/api/account/close', { data: { password: PASSWORD } });
    await who.dispose();
  }
});
