import { once } from 'node:events';
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { showFirstViews } from './first-views';

const ends: (() => void)[] = [];
afterEach(() => ends.splice(0).forEach((end) => end()));

async function serving(answer: RequestListener): Promise<string> {
  const server = createServer(answer).listen(0, '127.0.0.1');
  ends.push(() => {
    server.closeAllConnections();
    server.close();
  });
  await once(server, 'listening');
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
}

describe('the first views', () => {
  it('asks for each page on a connection for each process, all at once, and signs out', async () => {
    const asked: string[] = [];
    const waiting: (() => void)[] = [];
    const url = await serving((request, response) => {
      const { method, url: path, headers, socket } = request;
      if (method === 'POST' && path === '/api/account/demo') {
        response.setHeader('Set-Cookie', 'session=abc; Path=/; HttpOnly');
        return response.end();
      }
      asked.push(`${method} ${path} ${headers.cookie}`);
      if (method === 'DELETE') return response.end();
      // each gets its answer once three connections are asking
      waiting.push(() => response.end(`page for ${socket.remotePort}`));
      if (waiting.length === 3) waiting.splice(0).forEach((go) => go());
    });
    await showFirstViews(url, 3);
    expect(asked).toEqual([
      ...Array<string>(3).fill('GET / session=abc'),
      ...Array<string>(3).fill('GET /desk session=abc'),
      'DELETE /api/account/session session=abc',
    ]);
  });

  it('visits nothing where there is no demo', async () => {
    const asked: string[] = [];
    const url = await serving((request, response) => {
      asked.push(`${request.method} ${request.url}`);
      response.statusCode = 403;
      response.end();
    });
    await showFirstViews(url, 2);
    expect(asked).toEqual(['POST /api/account/demo']);
  });

  it('lets the app start where the visits go wrong, and signs out', async () => {
    const asked: string[] = [];
    const url = await serving((request, response) => {
      asked.push(`${request.method} ${request.url}`);
      if (request.method === 'GET') return request.socket.destroy();
      if (request.method === 'DELETE') return response.end();
      response.setHeader('Set-Cookie', 'session=abc');
      response.end();
    });
    await expect(showFirstViews(url, 2)).resolves.toBeUndefined();
    expect(asked.at(-1)).toBe('DELETE /api/account/session');
  });
});
