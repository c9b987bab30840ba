import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it, vi } from 'vitest';
import * as z from 'zod';
import { contract } from '@/contract/contract';
import {
  MOST_JSON,
  holdsPlainText,
  readBody,
  readId,
  refuse,
  route,
  serve,
  WORTH_PACKING,
} from './guard';

const ADDRESS = 'http://127.0.0.1:3210/api/games';
const schema = z.object({ nodes: z.number().int() });

const HOST = '127.0.0.1:3210';
const post = (body: BodyInit, headers: Record<string, string> = {}): Request =>
  new Request(ADDRESS, {
    method: 'POST',
    body,
    headers: { host: HOST, ...headers },
    duplex: 'half',
  } as RequestInit);

/** Sent piece by piece. */
const streamed = (pieces: number, piece: Uint8Array): ReadableStream => {
  let left = pieces;
  return new ReadableStream({
    pull: (controller) => (left-- > 0 ? controller.enqueue(piece) : controller.close()),
  });
};

const echo = route(async (request) => Response.json(await readBody(request, schema)));
vi.mock('@/server/sessions', () => ({
  accountOf: () => Promise.resolve({ id: 'owner', name: 'Own', playerId: null }),
}));
const noParams = { params: Promise.resolve({}) };

const outcome = async (request: Request): Promise<unknown> => {
  const answer = await echo(request, noParams);
  const json = (await answer.json()) as { error?: string };
  return answer.ok ? json : [answer.status, json.error];
};

describe('an answer', () => {
  it('tells how long it took', async () => {
    const slow = route(async () => {
      await new Promise((resolve) => setTimeout(resolve, 30));
      return Response.json({});
    });
    const answer = await slow(new Request(ADDRESS, { headers: { host: HOST } }), noParams);
    const [, said] = /^app;dur=(\d+\.\d)$/.exec(answer.headers.get('server-timing')!)!;
    expect(Number(said)).toBeGreaterThanOrEqual(29);
  });

  it('tells it where it refuses too', async () => {
    const answer = await route(() => refuse(404, 'missing'))(post('{}'), noParams);
    expect(answer.status).toBe(404);
    expect(answer.headers.get('server-timing')).toMatch(/^app;dur=/);
  });
});

describe('what a page sends', () => {
  it.each(['same-origin', 'none'])('is taken from a page of our own (%s)', async (site) => {
    const request = post('{"nodes":5}', { 'sec-fetch-site': site });
    expect(await outcome(request)).toEqual({ nodes: 5 });
  });

  it('is taken from a program, which says nothing of a site', async () => {
    expect(await outcome(post('{"nodes":5}'))).toEqual({ nodes: 5 });
  });

  it('is taken with the address of our own page', async () => {
    const request = post('{"nodes":5}', { origin: `http://${HOST}` });
    expect(await outcome(request)).toEqual({ nodes: 5 });
  });

  it.each([
    ['{"nodes":5,"words":"\\u0000"}'],
    ['{"nodes":5,"words":"\\ud800"}'],
    ['{"nodes":5,"\\udc00":1}'],
    ['{"nodes":5,"list":[[{"a":"\\u0000"}]]}'],
  ])('is refused where a text in it can not be stored: %s', async (body) => {
    expect(await outcome(post(body))).toEqual([400, 'text']);
  });

  it('may be nested deeply', () => {
    let data: unknown = 'x';
    for (let depth = 0; depth < 100_000; depth++) data = [data];
    expect(holdsPlainText(data)).toBe(true);
  });

  it('is refused while too much is being read', async () => {
    const piece = new Uint8Array(1024 * 1024).fill(32);
    const never: Promise<unknown>[] = [];
    const held: ReadableStreamDefaultController[] = [];
    for (let i = 0; i < 3; i++) {
      let left = MOST_JSON / piece.length;
      const stream = new ReadableStream({
        start: (controller) => void held.push(controller),
        pull: (controller) =>
          left-- > 0 ? controller.enqueue(piece) : new Promise<void>(() => {}),
      });
      never.push(outcome(post(stream)));
    }
    await new Promise((next) => setTimeout(next, 300));
    expect(await outcome(post('{"nodes":5}'))).toEqual([503, 'busy']);
    for (const controller of held) controller.close();
    await Promise.all(never);
    expect(await outcome(post('{"nodes":5}'))).toEqual({ nodes: 5 });
  });

  it('is put together from its pieces', async () => {
    const bytes = new TextEncoder().encode('{"nodes":5, "words":"歩"}');
    const parts = [...bytes].map((byte) => Uint8Array.of(byte));
    const stream = new ReadableStream({
      pull: (controller) =>
        parts.length > 0 ? controller.enqueue(parts.shift()) : controller.close(),
    });
    expect(await outcome(post(stream))).toEqual({ nodes: 5 });
  });

  it.each(['', '{', 'null', '{"nodes":"5"}', '{"nodes":1.5}'])(
    'is refused where it is %s',
    async (body) => {
      expect(await outcome(post(body))).toEqual([400, 'malformed']);
    },
  );

  it('is refused where it is too large, whatever length it is said to have', async () => {
    const piece = new Uint8Array(1024 * 1024).fill(32);
    expect(await outcome(post(streamed(MOST_JSON / piece.length + 1, piece)))).toEqual([
      413,
      'tooLarge',
    ]);
  });
});

describe('a contract', () => {
  const kept = contract('POST', '/api/games', {
    query: z.object({ copy: z.literal('1').optional() }),
    body: schema,
    answer: z.object({ nodes: z.number() }),
    status: 201,
  });
  const ask = async (query: string, body: string): Promise<[number, unknown]> => {
    const handler = serve(
      kept,
      async ({ body: { nodes }, query: { copy }, id }) =>
        ({ nodes: nodes + (copy ? 1 : 0) + id, ownerId: 'secret' }) as { nodes: number },
    );
    const request = new Request(`${ADDRESS}${query}`, {
      method: 'POST',
      body,
      headers: { host: HOST },
    });
    // Next gives no parameters where a route has none
    const answer = await handler(request, { params: Promise.resolve(undefined) });
    return [answer.status, await answer.json()];
  };

  it('sends what is in it, and nothing else', async () => {
    expect(await ask('', '{"nodes":5}')).toEqual([201, { nodes: 5 }]);
    expect(await ask('?copy=1', '{"nodes":5}')).toEqual([201, { nodes: 6 }]);
  });

  it.each([
    [WORTH_PACKING - 9, 'no-transform'],
    [WORTH_PACKING - 8, null],
  ])('is compressed on its way only where it is long: %i letters', async (letters, said) => {
    const long = contract('GET', '/api/games', { answer: z.object({ a: z.string() }) });
    const handler = serve(long, () => Promise.resolve({ a: 'x'.repeat(letters) }));
    const request = new Request(ADDRESS, { headers: { host: HOST } });
    const answer = await handler(request, { params: Promise.resolve(undefined) });
    expect(await answer.json()).toEqual({ a: 'x'.repeat(letters) });
    expect(answer.headers.get('content-type')).toBe('application/json');
    expect(answer.headers.get('cache-control')).toBe(said);
  });

  it('refuses what does not suit it', async () => {
    expect(await ask('?copy=2', '{"nodes":5}')).toMatchObject([400, { error: 'malformed' }]);
    expect(await ask('', '{"nodes":"5"}')).toMatchObject([400, { error: 'malformed' }]);
  });
});

describe('an id in an address', () => {
  it.each([
    ['12', 12],
    ['0', 0],
    ['-1', null],
    ['1e3', null],
    ['1;drop table games', null],
    ['99999999999999999', null],
    ['9999999999999999', null],
    ['', null],
  ])('%s', (text, id) => {
    if (id === null) expect(() => readId(text)).toThrow();
    else expect(readId(text)).toBe(id);
  });
});

type Handler = (
  request: Request,
  context: { params: Promise<{ id: string }> },
) => Promise<Response>;

const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
const folder = import.meta.dirname;
const files = readdirSync(folder, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('route.ts'))
  .sort();
const routes = await Promise.all(
  files.map(async (file) => {
    const exported = (await import(join(folder, file))) as Partial<Record<string, Handler>>;
    return METHODS.flatMap((method) => {
      const handler = exported[method];
      return handler ? [[`${method} ${file}`, method, handler] as const] : [];
    });
  }),
).then((all) => all.flat());

describe('every route', () => {
  const asked = async (
    [method, handler]: [string, Handler],
    headers: Record<string, string>,
    { query = '', id = '1' } = {},
  ): Promise<unknown> => {
    const body = method === 'GET' || method === 'DELETE' ? null : '{}';
    const request = new Request(`${ADDRESS}${query}`, { method, body, headers });
    const answer = await handler(request, { params: Promise.resolve({ id }) });
    return [answer.status, ((await answer.json()) as { error: string }).error];
  };

  it('is among those looked at', () => {
    expect(routes.length).toBeGreaterThan(17);
  });

  it.each(routes)('is asked for by our own names alone: %s', async (_, method, handler) => {
    for (const host of ['evil.example', 'evil.example:3210', '127.0.0.1.evil.example', 'a b'])
      expect(await asked([method, handler], { host })).toEqual([421, 'host']);
    expect(await asked([method, handler], {})).toEqual([421, 'host']);
  });

  it.each(routes)('holds text that can be stored: %s', async (_, method, handler) => {
    const refusal = [400, 'text'];
    expect(await asked([method, handler], { host: HOST }, { query: '?name=%00' })).toEqual(refusal);
    expect(await asked([method, handler], { host: HOST }, { query: '?%00=1' })).toEqual(refusal);
    expect(await asked([method, handler], { host: HOST }, { id: '1\0' })).toEqual(refusal);
    expect(await asked([method, handler], { host: HOST }, { id: '\ud800' })).toEqual(refusal);
  });

  it.each(routes.filter(([, method]) => method !== 'GET'))(
    'takes no changes from other sites: %s',
    async (_, method, handler) => {
      for (const headers of [
        { 'sec-fetch-site': 'cross-site' },
        { 'sec-fetch-site': 'same-site' },
        { origin: 'http://evil.example' },
        { origin: 'http://127.0.0.1:3211' },
        { origin: 'null' },
        { origin: `http://${HOST}`, 'sec-fetch-site': 'cross-site' },
      ] as Record<string, string>[])
        expect(await asked([method, handler], { host: HOST, ...headers })).toEqual([
          403,
          'foreign',
        ]);
    },
  );
});
