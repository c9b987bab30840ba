import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { MOST_JSON, readBody, readId } from './guard';

const ADDRESS = 'http://127.0.0.1:3210/api/games';
const schema = z.object({ nodes: z.number().int() });

const post = (body: BodyInit, headers: Record<string, string> = {}): Request =>
  new Request(ADDRESS, { method: 'POST', body, headers, duplex: 'half' } as RequestInit);

/** Sent piece by piece. */
const streamed = (pieces: number, piece: Uint8Array): ReadableStream => {
  let left = pieces;
  return new ReadableStream({
    pull: (controller) => (left-- > 0 ? controller.enqueue(piece) : controller.close()),
  });
};

const outcome = async (request: Request): Promise<unknown> => {
  const body = await readBody(request, schema);
  if ('data' in body) return body.data;
  const { error } = (await body.answer.json()) as { error: string };
  return [body.answer.status, error];
};

describe('what a page sends', () => {
  it.each(['same-origin', 'none'])('is taken from a page of our own (%s)', async (site) => {
    const request = post('{"nodes":5}', { 'sec-fetch-site': site });
    expect(await outcome(request)).toEqual({ nodes: 5 });
  });

  it('is taken from a program, which says nothing of a site', async () => {
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

describe('an id in an address', () => {
  it.each([
    ['12', 12],
    ['0', 0],
    ['-1', null],
    ['1e3', null],
    ['1;drop table games', null],
    ['1234567890123456', null],
    ['', null],
  ])('%s', (text, id) => {
    expect(readId(text)).toBe(id);
  });
});

const CHANGING = ['POST', 'PUT', 'PATCH', 'DELETE'] as const;
type Handler = (
  request: Request,
  context: { params: Promise<{ id: string }> },
) => Promise<Response>;

const folder = import.meta.dirname;
const routes = readdirSync(folder, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('route.ts'))
  .sort();

describe('every route that changes something', () => {
  it('is among those looked at', () => {
    expect(routes.length).toBeGreaterThan(10);
  });

  it.each(routes)('refuses other sites: %s', async (file) => {
    const route = (await import(join(folder, file))) as Partial<Record<string, Handler>>;
    for (const method of CHANGING) {
      const response = await route[method]?.(
        new Request(ADDRESS, { method, body: '{}', headers: { 'sec-fetch-site': 'cross-site' } }),
        { params: Promise.resolve({ id: '1' }) },
      );
      if (response) expect(response.status).toBe(403);
    }
  });
});
