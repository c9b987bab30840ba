import { request as httpRequest } from 'node:http';
import { expect, test, type APIRequestContext, type Page } from '@playwright/test';
import { open, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn('Faults', `1. e4 e5 2. Nf3 Nc6 *`);

/** The status of a request as a program sends it, with whatever headers. */
const statusOf = (
  base: string,
  method: string,
  path: string,
  headers: Record<string, string>,
  body = '',
): Promise<number> =>
  new Promise((resolve, reject) => {
    const sent = httpRequest(new URL(path, base), { method, headers }, (answer) => {
      answer.resume();
      answer.on('end', () => resolve(answer.statusCode!));
    });
    sent.on('error', reject);
    sent.end(body);
  });

const record = (change: object = {}) => ({
  kind: 'chess',
  start: 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1',
  nodes: [{ id: 0, parent: null, move: '' }],
  tags: [{ name: 'Event', value: `faults ${Date.now()} ${Math.random()}` }],
  result: '*',
  end: null,
  ...change,
});

const newGame = async (request: APIRequestContext): Promise<number> => {
  const nodes = [
    { id: 0, parent: null, move: '' },
    { id: 1, parent: 0, move: 'e2e4' },
  ];
  const tags = [{ name: 'White', value: `Faults ${Date.now()}${Math.random()}` }];
  const answer = await request.post('/api/games', { data: record({ nodes, tags }) });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { id: number }).id;
};

/** Knights going to and fro, as packed moves of an inserted branch. */
const KNIGHTS = [62 | (45 << 7), 6 | (21 << 7), 45 | (62 << 7), 21 | (6 << 7)];
const branch = (plies: number) =>
  Array.from({ length: plies }, (_, ply) => ({
    id: 1_000_000 + ply,
    parent: ply === 0 ? null : 1_000_000 + ply - 1,
    move: KNIGHTS[ply % 4]!,
  }));

test('requests that can not be served are refused, never answered with a fault', async ({
  request,
}) => {
  const id = await newGame(request);
  const steps = (data: unknown) =>
    request.post(`/api/games/${id}/steps`, {
      data: data as object,
      headers: { 'content-type': 'application/json' },
    });
  const insert = (branchOf: object[], version = 1) =>
    steps({ version, steps: [{ type: 'insert', parent: 1, index: 0, branch: branchOf }] });

  for (const text of ['\\u0000', '\\ud800']) {
    const body = JSON.stringify(record()).replace('faults', text);
    const answer = await request.post('/api/games', {
      data: body,
      headers: { 'content-type': 'application/json' },
    });
    expect(answer.status()).toBe(400);
    expect(await answer.json()).toMatchObject({ error: 'text' });
  }
  for (const path of ['/?text=%00', '/games/%00', '/games/1?node=%00', '/setup?position=%00'])
    expect((await request.get(path)).status()).toBe(400);
  expect((await request.get('/api/positions?kind=chess&position=%00')).status()).toBe(400);
  expect((await request.get(`/api/games/${id}/steps?since=99999999999`)).status()).toBe(400);
  expect((await request.get('/api/games/999999999999999/review')).status()).toBe(404);
  expect((await request.get('/games/999999999999999')).status()).toBe(404);
  expect((await request.get('/games/abc')).status()).toBe(404);
  expect((await steps({ version: 2 ** 31, steps: [] })).status()).toBe(400);
  expect((await steps({ version: 77, steps: [{ type: 'remove', node: 1 }] })).status()).toBe(422);

  // an illegal packed move, one that is no move at all, a line too long for any game
  expect((await insert([{ id: 5, parent: null, move: 2 ** 21 + 12345 }])).status()).toBe(422);
  expect((await insert([{ id: 5, parent: null, move: 2 ** 30 }])).status()).toBe(400);
  const tooLong = await insert(branch(12_100));
  expect(tooLong.status()).toBe(422);
  expect(await tooLong.json()).toMatchObject({
    detail: expect.stringContaining('plies') as unknown,
  });
  expect((await insert(branch(5000))).status()).toBe(200);

  const long = Array.from({ length: 40_001 }, (_, at) => ({
    id: at,
    parent: at === 0 ? null : at - 1,
    move: at === 0 ? '' : ['g1f3', 'g8f6', 'f3g1', 'f6g8'][(at - 1) % 4],
  }));
  const posted = await request.post('/api/games', { data: record({ nodes: long }) });
  expect(posted.status()).toBe(422);
  expect(await posted.json()).toMatchObject({ detail: { code: 'limit.plies' } });
});

test('the same game posted ten times at once is one game', async ({ request }) => {
  const data = record({
    nodes: [
      { id: 0, parent: null, move: '' },
      { id: 1, parent: 0, move: 'e2e4' },
    ],
    tags: [{ name: 'White', value: `Ten ${Date.now()}` }],
  });
  const answers = await Promise.all(
    Array.from({ length: 10 }, async () => {
      const answer = await request.post('/api/games', { data });
      expect(answer.status()).toBe(201);
      return (await answer.json()) as { id: number; duplicate: boolean };
    }),
  );
  expect(answers.filter(({ duplicate }) => !duplicate)).toHaveLength(1);
  expect(new Set(answers.map(({ id }) => id)).size).toBe(1);
});

test('other sites and other names are refused, and scripts that are not ours do not run', async ({
  page,
  baseURL,
  request,
}) => {
  const base = baseURL!;
  const { host } = new URL(base);
  for (const path of ['/', '/lessons', '/api/health', '/api/engines?kind=chess']) {
    expect(await statusOf(base, 'GET', path, { Host: 'evil.example' })).toBe(421);
    // under our own name who is not signed in is led to where they can be, or refused
    const ours = await statusOf(base, 'GET', path, { Host: host });
    expect(ours).toBe(path === '/api/health' ? 200 : path.startsWith('/api/') ? 401 : 307);
  }
  const json = { 'Content-Type': 'application/json', Host: host };
  const body = JSON.stringify(record());
  for (const Origin of ['http://evil.example', 'null'])
    expect(await statusOf(base, 'POST', '/api/games', { ...json, Origin }, body)).toBe(403);
  const answer = await request.get('/');
  const policy = answer.headers()['content-security-policy']!;
  expect(policy).toContain("frame-ancestors 'none'");
  expect(/script-src [^;]*/.exec(policy)![0]).not.toContain('unsafe-inline');

  await open(page, '/');
  const ran = await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.intruder = true';
    document.head.append(script);
    const image = document.createElement('img');
    image.setAttribute('onerror', 'window.intruder = true');
    image.src = '/nowhere';
    document.body.append(image);
    return new Promise((told) =>
      setTimeout(() => told((window as unknown as { intruder?: boolean }).intruder), 500),
    );
  });
  expect(ran).toBeUndefined();
});

const banner = (page: Page) => page.getByRole('alert').filter({ hasText: 'does not take' });

test('a refused save is said once, offered for rescue, and taken back', async ({ page }) => {
  await takeIn(page, 'refused.pgn', CHESS);
  let asked = 0;
  await page.route('**/api/games/*/steps', (route) => {
    if (route.request().method() !== 'POST') return route.continue();
    asked++;
    return route.fulfill({ status: 422, json: { error: 'unfit', detail: 'nodes: at most 50000' } });
  });
  await page.keyboard.press('End');
  await page.keyboard.press('!');
  await expect(banner(page)).toContainText('nodes: at most 50000');
  await expect(page.getByRole('status').getByText('not saved: refused')).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    banner(page).getByRole('button', { name: 'Save as a file' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('bektra.pgn');
  await page.waitForTimeout(5000);
  expect(asked).toBe(1);
  await page.unroute('**/api/games/*/steps');
  await banner(page).getByRole('button', { name: 'Take the changes back' }).click();
  await expect(banner(page)).toHaveCount(0);
  await expect(page.locator('.move.current .sign')).toHaveCount(0);
  // and what is written now is taken
  await page.keyboard.press('?');
  await expect(page.getByRole('status').getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.locator('.move .sign')).toHaveCount(1);
});

test('several files at once: the good go in, and what was wrong with the others stays in sight', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await open(page, '/');
  const unlike = Date.now();
  const good = CHESS.replace('[White', `[Round "${unlike}"]\n[White`);
  await page.locator('input[type=file]').setInputFiles([
    { name: 'good.pgn', mimeType: 'text/plain', buffer: Buffer.from(good) },
    { name: 'bad.pgn', mimeType: 'text/plain', buffer: Buffer.from('[Event "x"]\n\n1. e5 *\n') },
    {
      name: 'differs.pgn',
      mimeType: 'text/plain',
      buffer: Buffer.from(
        `[Round "${unlike}b"]\n[White "Nobody"]\n[Result "1-0"]\n\n1. e4 e5 0-1\n`,
      ),
    },
  ]);
  const report = (name: string) =>
    page.getByTestId('import-result').filter({ hasText: name }).first();
  await expect(report('good.pgn')).toContainText('1 new game');
  await expect(report('bad.pgn')).toContainText('Line 3');
  await expect(report('differs.pgn')).toContainText('The tag says 1-0, the moves end with 0-1');
  expect(new URL(page.url()).pathname).toBe('/');
  // the reports stay within reach
  await open(page, '/lessons');
  await open(page, '/');
  await page.getByText(/The last \d imports/).click();
  const earlier = page.getByTestId('earlier-import').filter({ hasText: 'bad.pgn' }).first();
  await expect(earlier).toContainText('Line 3');
  expect(errors).toEqual([]);
});
