import { describe, expect, it } from 'vitest';
import { CalledOff, type Answer, type Ask, type Question } from '@/core/ask/question';
import type { Engine } from '@/engine/contract';
import { EnginePool } from './engine-pool';

const question = (name: string): Question => ({
  kind: 'chess',
  root: { position: name, moveCount: 0, repeated: [] },
  budget: {},
  lines: 1,
  fresh: true,
});
const answer: Answer = { depth: 1, nodes: 1, milliseconds: 10, lines: [] };
const settled = () => new Promise((next) => setTimeout(next));

/** An engine that answers when it is told to, and notes what it was asked. */
function slowEngine() {
  const asked: string[] = [];
  const waiting: ((error?: Error) => void)[] = [];
  let closed = false;
  const engine: Engine = {
    search: ({ root }, { signal, onInfo } = {}) =>
      new Promise((resolve, reject) => {
        asked.push(root.position);
        onInfo?.({ ...answer, depth: 0 });
        signal?.addEventListener('abort', () => resolve(answer));
        waiting.push((error) => (error ? reject(error) : resolve(answer)));
      }),
    close: () => void (closed = true),
  };
  const next = async (error?: Error): Promise<void> => {
    waiting.shift()!(error);
    await settled();
  };
  return { engine, asked, next, isClosed: () => closed };
}

describe('engines that are shared', () => {
  const never = new AbortController().signal;

  it('are asked for a position first, then for a game, then for many, else in the order of asking', async () => {
    const { engine, asked, next } = slowEngine();
    const pool = new EnginePool([engine]);
    const [many, game, position] = (['batch', 'game', 'position'] as const).map((urgency) =>
      pool.askOf(never, urgency),
    ) as [Ask, Ask, Ask];
    const all = [
      many(question('a')),
      many(question('b')),
      game(question('f')),
      position(question('c')),
      many(question('d')),
      position(question('e')),
      game(question('g')),
    ];
    for (let count = 0; count < all.length; count++) {
      await settled();
      await next();
    }
    await Promise.all(all);
    expect(asked).toEqual(['a', 'c', 'e', 'f', 'g', 'b', 'd']);
    expect(pool.busy).toBe(70);
    expect(pool.size).toBe(1);
  });

  it('search at once, one question each', async () => {
    const [one, two] = [slowEngine(), slowEngine()];
    const pool = new EnginePool([one.engine, two.engine]);
    const ask = pool.askOf(never, 'batch');
    const all = [ask(question('a')), ask(question('b')), ask(question('c'))];
    await settled();
    expect(one.asked.length + two.asked.length).toBe(2);
    await one.next();
    expect(one.asked.length + two.asked.length).toBe(3);
    await one.next();
    await two.next();
    await Promise.all(all);
    pool.close();
    expect([one.isClosed(), two.isClosed()]).toEqual([true, true]);
  });

  it('are free again after a failure, and after being called off', async () => {
    const { engine, asked, next } = slowEngine();
    const pool = new EnginePool([engine]);
    const failing = pool.askOf(never, 'position')(question('a'));
    await settled();
    const failed = expect(failing).rejects.toThrow('broken');
    await next(new Error('broken'));
    await failed;
    const control = new AbortController();
    const off = pool.askOf(control.signal, 'position');
    const called = [off(question('b')), off(question('c'))];
    await settled();
    control.abort();
    for (const one of called) await expect(one).rejects.toBeInstanceOf(CalledOff);
    // the one that waited was never asked
    expect(asked).toEqual(['a', 'b']);
    const last = pool.askOf(never, 'batch')(question('d'));
    await settled();
    await next();
    await next().catch(() => undefined);
    expect(await last).toBe(answer);
  });

  it('tell of each depth on the way', async () => {
    const { engine, next } = slowEngine();
    const told: number[] = [];
    const asking = new EnginePool([engine]).askOf(never, 'position');
    const answered = asking(question('a'), ({ depth }) => told.push(depth));
    await settled();
    await next();
    await answered;
    expect(told).toEqual([0]);
  });
});
