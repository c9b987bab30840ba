import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

const data = resolve('.data-test/front-door');
const env = {
  ...process.env,
  BEKTRA_DATA: data,
  BEKTRA_PORT: '0',
  BEKTRA_LOG: 'silent',
  BEKTRA_IMPORT_MB: '64',
  BEKTRA_WEB_PROCESSES: '2',
  BEKTRA_ENDING_PIECES: '0',
};
delete (env as Record<string, unknown>).BEKTRA_DATABASE_URL;
delete (env as Record<string, unknown>).BEKTRA_SECRET;

interface App {
  child: ChildProcess;
  url: string;
}

const running: ChildProcess[] = [];

/** Starts the app and waits for its last line, the address. */
const start = (): Promise<App> =>
  new Promise((done, fail) => {
    const child = spawn(resolve('bektra'), ['start'], {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    running.push(child);
    let output = '';
    child.stdout.on('data', (piece: Buffer) => {
      output += piece.toString();
      const url = /Bektra is ready.*\n(http\S+)\n$/.exec(output)?.[1];
      if (url) done({ child, url });
    });
    child.once('exit', (code) => fail(new Error(`ended with ${code}:\n${output}`)));
  });

const command = (...args: string[]): Promise<{ code: number | null; output: string }> =>
  new Promise((done) => {
    const child = spawn(resolve('bektra'), args, { env });
    let output = '';
    child.stdout.on('data', (piece: Buffer) => (output += piece.toString()));
    child.stderr.on('data', (piece: Buffer) => (output += piece.toString()));
    child.on('close', (code) => done({ code, output }));
  });

/** What Linux tells of a process, behind its name, which may hold anything: its state, its parent, … */
const statOf = (pid: number): string[] => {
  const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
  return stat.slice(stat.lastIndexOf(')') + 2).split(' ');
};
const childrenOf = (pid: number): number[] =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').map(Number);

const ended = (child: ChildProcess): Promise<number | null> =>
  new Promise((done) => {
    if (child.exitCode !== null) return done(child.exitCode);
    child.once('exit', (code) => done(code));
  });

const answers = async (url: string): Promise<boolean> =>
  fetch(url).then(
    (response) => response.ok,
    () => false,
  );

/** Asks as one who has opened the demo account. */
async function demoAt(url: string): Promise<typeof fetch> {
  const opened = await fetch(`${url}api/account/demo`, { method: 'POST' });
  const cookie = opened.headers.getSetCookie()[0]!.split(';')[0]!;
  return (input, init = {}) => fetch(input, { ...init, headers: { ...init.headers, cookie } });
}

const gamesAt = async (url: string): Promise<number> => {
  const page = await (await demoAt(url))(url);
  return Number(/(\d+) games/.exec(await page.text())?.[1] ?? 0);
};

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('the front door', { timeout: 400_000 }, () => {
  afterAll(async () => {
    await command('stop');
    for (const child of running) child.kill('SIGKILL');
    rmSync(data, { recursive: true, force: true });
  });

  it('starts with the demo games, saves, restores, survives kills and stops cleanly', async () => {
    const first = await start();
    expect(await answers(`${first.url}api/health`)).toBe(true);
    const games = await gamesAt(first.url);
    expect(games).toBeGreaterThanOrEqual(80);
    // who has no account is led to where there is one
    const unknown = await fetch(first.url, { redirect: 'manual' });
    expect(unknown.headers.get('location')).toBe('/sign-in');
    expect((await fetch(`${first.url}api/filters/1`, { method: 'DELETE' })).status).toBe(401);
    const ask = await demoAt(first.url);
    // whose games are gone over by themselves, and who has been given those of a student
    const batches = (await (await ask(`${first.url}api/batches`)).json()) as { id: number }[];
    expect(batches).toMatchObject([{ games, state: 'running' }]);
    const stopped = await ask(`${first.url}api/batches/${batches[0]!.id}`, { method: 'DELETE' });
    expect(stopped.status).toBe(204);
    const given = await (await ask(`${first.url}given`)).text();
    expect(given).toContain('Nele Hartog');
    const headers = (await ask(first.url)).headers;
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(headers.get('x-powered-by')).toBeNull();

    // a second start finds the first
    const again = await command('start');
    expect(again).toMatchObject({ code: 0 });
    expect(again.output).toContain(first.url);

    // nobody else can read the password
    expect(statSync(join(data, 'password')).mode & 0o077).toBe(0);
    expect(statSync(join(data, 'database-url')).mode & 0o077).toBe(0);
    expect(statSync(join(data, 'secret')).mode & 0o077).toBe(0);

    // saved while it runs
    const saved = join(data, 'saved.backup');
    expect(await command('backup', saved)).toMatchObject({ code: 0 });
    expect(statSync(saved).mode & 0o077).toBe(0);
    const page = await (await ask(`${first.url}?kind=shogi`)).text();
    const [, id] = /\/games\/(\d+)"/.exec(page)!;
    const deletion = { do: 'delete' };
    const deleted = await ask(`${first.url}api/games`, {
      method: 'PUT',
      body: JSON.stringify({ games: { ids: [Number(id)] }, change: deletion }),
    });
    expect(await deleted.json()).toMatchObject({ games: 1 });
    expect(await gamesAt(first.url)).toBe(games - 1);

    // changes from a foreign page are refused
    const foreign = await ask(`${first.url}api/filters/1`, {
      method: 'DELETE',
      headers: { 'sec-fetch-site': 'cross-site' },
    });
    expect(foreign.status).toBe(403);

    // a file that is too large is refused, and the way out named by the page
    const large = await ask(`${first.url}api/imports?name=large.pgn`, {
      method: 'POST',
      body: Buffer.alloc(65 * 1024 * 1024, 'a'),
    });
    expect(large.status).toBe(413);
    /** The connection of the file that was refused is closed, and may be met once more. */
    const askAgain = (path: string, init?: RequestInit): Promise<Response> => {
      const once = () => ask(`${first.url}api/${path}`, init);
      return once().catch(once);
    };
    const post = (path: string, body: string): Promise<Response> =>
      askAgain(path, { method: 'POST', body });
    for (const [path, body] of [
      ['games', '{"kind":"chess"}'],
      ['games', 'not json'],
      ['games/1/steps', '{"version":1,"steps":[{"type":"burn"}]}'],
      ['games/1/sweep', '{"depth":5,"nodes":5000,"lines":1}'],
    ] as const) {
      expect((await post(path, body)).status).toBe(400);
    }
    const illegal = JSON.stringify({
      kind: 'chess',
      start: 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1',
      nodes: [
        { id: 0, parent: null, move: '' },
        { id: 1, parent: 0, move: 'e2e5' },
      ],
      tags: [],
      result: '*',
      end: null,
    });
    expect((await post('games', illegal)).status).toBe(400);
    for (const path of [
      'games/999999/review',
      'games/x/review',
      'imports/999999',
      'games/1/export?format=kif',
    ])
      expect((await askAgain(path)).status).toBeGreaterThanOrEqual(400);

    // refuses to restore under a running server
    expect((await command('restore', saved)).code).toBe(3);

    // what the parts say is kept, as structured lines that only their owner reads
    for (const part of ['web', 'worker']) {
      const log = join(data, 'logs', `${part}.log`);
      expect(statSync(log).mode & 0o077).toBe(0);
      for (const line of readFileSync(log, 'utf8').trim().split('\n').filter(Boolean))
        expect(JSON.parse(line)).toHaveProperty('level');
    }

    const { parts } = JSON.parse(readFileSync(join(data, 'running.json'), 'utf8')) as {
      parts: [number, number];
    };
    // the worker leads a session, which gives way where the processors are shared among sessions
    const [, worker] = parts;
    expect(Number(statOf(worker)[3])).toBe(worker);
    const group = `/proc/${worker}/autogroup`;
    if (existsSync(group)) expect(readFileSync(group, 'utf8')).toMatch(/ nice 10$/m);

    const postmaster = (): number =>
      Number(readFileSync(join(data, 'postgres/postmaster.pid'), 'utf8').split('\n')[0]);
    // what the database does for the worker gives way to what it does for pages
    const nice = childrenOf(postmaster()).map((child) => Number(statOf(child)[16]));
    expect(nice.some((one) => one === 10)).toBe(true);
    expect(nice.some((one) => one === 0)).toBe(true);

    // the database killed without warning is started again, at the same address, and the parts go on
    const address = readFileSync(join(data, 'database-url'), 'utf8');
    const killed = postmaster();
    process.kill(killed, 'SIGKILL');
    const whole = async (): Promise<boolean> =>
      (await answers(`${first.url}api/health`)) && postmaster() !== killed;
    for (let waited = 0; !(await whole().catch(() => false)); waited++) {
      expect(waited).toBeLessThan(60);
      await new Promise((next) => setTimeout(next, 500));
    }
    expect(readFileSync(join(data, 'database-url'), 'utf8')).toBe(address);
    expect(await gamesAt(first.url)).toBe(games - 1);

    // of two web processes one is killed: the other answers, and it is replaced
    const [one] = childrenOf(parts[0]);
    process.kill(one!, 'SIGKILL');
    const areTwo = (): boolean => {
      const now = childrenOf(parts[0]);
      return now.length === 2 && !now.includes(one!);
    };
    for (let waited = 0; !areTwo(); waited++) {
      expect(waited).toBeLessThan(60);
      await new Promise((next) => setTimeout(next, 100));
    }
    for (let asked = 0; asked < 4; asked++) expect(await gamesAt(first.url)).toBe(games - 1);

    // a start beside an app that does not answer says so, and what to do
    process.kill(parts[0], 'SIGSTOP');
    const beside = await command('start');
    process.kill(parts[0], 'SIGCONT');
    expect(beside).toMatchObject({ code: 3 });
    expect(beside.output).toContain('./bektra stop');

    // killed without warning: web, worker and database die or are left behind, and the next start copes
    first.child.kill('SIGKILL');
    await ended(first.child);
    const pid = readFileSync(join(data, 'postgres/postmaster.pid'), 'utf8').split('\n')[0]!;
    process.kill(Number(pid), 'SIGKILL');
    await new Promise((next) => setTimeout(next, 500));
    // the lock names a process that is something else by now
    if (existsSync(join(data, 'postgres/postmaster.pid')))
      writeFileSync(join(data, 'postgres/postmaster.pid'), `${process.pid}\n`);
    const second = await start();
    expect(await answers(`${first.url}api/health`)).toBe(false);
    expect(await gamesAt(second.url)).toBe(games - 1);

    // Ctrl-C ends everything
    second.child.kill('SIGINT');
    expect(await ended(second.child)).toBe(0);
    expect(await answers(`${second.url}api/health`)).toBe(false);
    expect(existsSync(join(data, 'postgres/postmaster.pid'))).toBe(false);

    // a broken backup changes nothing, a good one brings the game back
    const broken = join(data, 'broken.backup');
    writeFileSync(broken, readFileSync(saved).subarray(0, 40_000));
    const unasked = await command('restore', saved);
    expect(unasked).toMatchObject({ code: 1 });
    expect(unasked.output).toContain('--replace');
    expect((await command('restore', '--replace', broken)).code).toBe(3);
    expect(await command('restore', '--replace', saved)).toMatchObject({ code: 0 });
    const third = await start();
    expect(await gamesAt(third.url)).toBe(games);

    expect(await command('stop')).toMatchObject({ code: 0 });
    expect(await ended(third.child)).toBe(0);
    expect((await command('stop')).output).toContain('not running');
  });
});
