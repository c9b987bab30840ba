import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { afterEach, describe, expect, it } from 'vitest';
import { gamesIn } from '@/server/import-part';
import { settings } from '@/server/settings';
import type { ImportAsked, ImportTold } from '@/worker/import-thread';

const threads: Worker[] = [];
afterEach(async () => {
  for (const thread of threads.splice(0)) await thread.terminate();
});

/** A thread that reads a file of so many games, and how many games the parts have that it told so far. */
function reading(games: number): { told: (number | 'done')[]; taken(): void } {
  const thread = new Worker(join(settings().root, 'dist/import-thread.mjs'));
  threads.push(thread);
  const told: (number | 'done')[] = [];
  const ask = (asked: ImportAsked): void => thread.postMessage(asked);
  let piece: Uint8Array | null = Buffer.from('[White "A"]\n\n1. e4 e5 *\n\n'.repeat(games));
  thread.on('message', (message: ImportTold) => {
    if (message === 'piece') {
      ask({ piece });
      piece = null;
    } else if ('part' in message) told.push(gamesIn(message.part));
    else told.push('done');
  });
  ask({ read: { name: 'games.pgn', skip: 0, most: 1e9, base: null } });
  return { told, taken: () => ask('taken') };
}

const PAUSE_MS = 500;

describe('the thread that reads imports', () => {
  it('is two parts ahead of who takes them, and no more', async () => {
    const { told, taken } = reading(2200);
    await expect.poll(() => told.length, { timeout: 20_000 }).toBe(2);
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    expect(told).toHaveLength(2);
    taken();
    await expect.poll(() => told.length, { timeout: 20_000 }).toBe(3);
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    expect(told).toHaveLength(3);
    for (let part = 0; part < 10; part++) taken();
    await expect.poll(() => told.at(-1), { timeout: 20_000 }).toBe('done');
    const parts = told.filter((one) => one !== 'done');
    expect(parts.reduce((sum, games) => sum + games, 0)).toBe(2200);
    expect(Math.max(...parts)).toBeLessThanOrEqual(500);
  });
});
