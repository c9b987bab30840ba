import { beforeEach, describe, expect, it } from 'vitest';
import { ENDLESS } from '../../tests/support/search-request';
import { connectEngine } from './client';
import type { Answer } from '@/core/ask/question';
import type { Engine } from './contract';
import type { FromThread, ToThread } from './serve';

const infoAt = (depth: number): Answer => ({
  depth,
  selectiveDepth: depth,
  nodes: depth,
  milliseconds: 0,
  lines: [],
});

/** A thread that the test speaks for. */
class FakeThread {
  readonly heard: ToThread[] = [];
  terminated = false;

  constructor(
    readonly say: (message: FromThread) => void,
    readonly die: (error: Error) => void,
  ) {}

  /** The searches that it was asked for. */
  get asked(): number[] {
    return this.heard.flatMap((message) => (message.type === 'search' ? [message.id] : []));
  }

  /** Whether a search was called off: as the first thread sees it, and as a helper does. */
  isStopped(id: number): { called: boolean; over: boolean } {
    const start = this.heard.find((message) => message.type === 'start')!;
    const [called, over] = new Int32Array(start.signals.stop);
    return { called: called! >= id, over: over! >= id };
  }
}

let threads: FakeThread[] = [];
beforeEach(() => {
  threads = [];
});

const connect = (count: number): Promise<Engine> =>
  connectEngine(
    (receive, fail) => {
      const thread = new FakeThread(receive, fail);
      threads.push(thread);
      return {
        post: (message) => void thread.heard.push(message),
        terminate: () => void (thread.terminated = true),
      };
    },
    { modules: {}, tableMegabytes: 1, threads: count },
  );

async function started(count: number): Promise<Engine> {
  const engine = connect(count);
  for (const { say } of threads) say({ type: 'ready' });
  return engine;
}

/** Lets everything happen that needs no further message. */
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

const isPending = async (promise: Promise<unknown>): Promise<boolean> => {
  let pending = true;
  const end = (): void => void (pending = false);
  promise.then(end, end);
  await settle();
  return pending;
};

describe('starting an engine', () => {
  it('waits until its last thread is ready', async () => {
    const engine = connect(3);
    threads[1]!.say({ type: 'ready' });
    threads[0]!.say({ type: 'ready' });
    expect(await isPending(engine)).toBe(true);
    threads[2]!.say({ type: 'ready' });
    expect(await isPending(engine)).toBe(false);
  });

  it('fails with the thread that can not load, and leaves none running', async () => {
    const engine = connect(2);
    threads[0]!.say({ type: 'ready' });
    threads[1]!.die(new Error('out of memory'));
    await expect(engine).rejects.toThrow('out of memory');
    expect(threads.map(({ terminated }) => terminated)).toEqual([true, true]);
  });
});

describe('searching', () => {
  it('does one search at a time, in the order asked', async () => {
    const engine = await started(1);
    const [thread] = threads as [FakeThread];
    const first = engine.search(ENDLESS);
    const second = engine.search(ENDLESS);
    await settle();
    expect(thread.asked).toEqual([1]);
    thread.say({ type: 'done', id: 1, info: infoAt(5) });
    expect((await first).depth).toBe(5);
    await settle();
    expect(thread.asked).toEqual([1, 2]);
    thread.say({ type: 'done', id: 2, info: infoAt(6) });
    expect((await second).depth).toBe(6);
  });

  it('goes on with the next one after one that failed', async () => {
    const engine = await started(1);
    const [thread] = threads as [FakeThread];
    const first = engine.search(ENDLESS);
    const second = engine.search(ENDLESS);
    await settle();
    thread.say({ type: 'failed', id: 1, message: 'no such position' });
    await expect(first).rejects.toThrow('no such position');
    await settle();
    thread.say({ type: 'done', id: 2, info: infoAt(3) });
    expect((await second).depth).toBe(3);
  });

  it('hears of depths from the first thread alone, and ends when its helpers have', async () => {
    const engine = await started(2);
    const [first, helper] = threads as [FakeThread, FakeThread];
    const depths: number[] = [];
    const search = engine.search(ENDLESS, { onInfo: ({ depth }) => void depths.push(depth) });
    await settle();
    first.say({ type: 'info', id: 1, info: infoAt(1) });
    helper.say({ type: 'info', id: 1, info: infoAt(9) });
    first.say({ type: 'info', id: 1, info: infoAt(2) });
    expect(depths).toEqual([1, 2]);
    expect(helper.isStopped(1)).toEqual({ called: false, over: false });
    first.say({ type: 'done', id: 1, info: infoAt(2) });
    expect(await isPending(search)).toBe(true);
    expect(helper.isStopped(1)).toEqual({ called: false, over: true });
    helper.say({ type: 'done', id: 1, info: infoAt(9) });
    expect((await search).depth).toBe(2);
  });

  it('calls off the search whose signal aborts, and no later one', async () => {
    const engine = await started(1);
    const [thread] = threads as [FakeThread];
    const stop = new AbortController();
    const first = engine.search(ENDLESS, { signal: stop.signal });
    const second = engine.search(ENDLESS);
    await settle();
    expect(thread.isStopped(1).called).toBe(false);
    stop.abort();
    expect(thread.isStopped(1).called).toBe(true);
    thread.say({ type: 'done', id: 1, info: infoAt(4) });
    await first;
    await settle();
    expect(thread.isStopped(2).called).toBe(false);
    thread.say({ type: 'done', id: 2, info: infoAt(7) });
    await second;
  });

  it('still answers one that was called off before its turn', async () => {
    const engine = await started(1);
    const [thread] = threads as [FakeThread];
    const stop = new AbortController();
    stop.abort();
    const search = engine.search(ENDLESS, { signal: stop.signal });
    await settle();
    expect(thread.isStopped(1).called).toBe(true);
    thread.say({ type: 'done', id: 1, info: infoAt(1) });
    expect((await search).depth).toBe(1);
  });
});

describe('an engine that is lost', () => {
  it.each(['first', 'helper'])(
    'fails what runs and what waits when the %s thread dies',
    async (who) => {
      const engine = await started(2);
      const running = engine.search(ENDLESS);
      const waiting = engine.search(ENDLESS);
      await settle();
      threads[who === 'first' ? 0 : 1]!.die(new Error('killed'));
      await expect(running).rejects.toThrow('killed');
      await expect(waiting).rejects.toThrow('killed');
      await expect(engine.search(ENDLESS)).rejects.toThrow('killed');
      expect(threads[0]!.asked).toEqual([1]);
    },
  );

  it('ends its threads and what runs when it is closed', async () => {
    const engine = await started(2);
    const running = engine.search(ENDLESS);
    await settle();
    engine.close();
    await expect(running).rejects.toThrow('engine closed');
    expect(threads.map(({ terminated }) => terminated)).toEqual([true, true]);
    await expect(engine.search(ENDLESS)).rejects.toThrow('engine closed');
  });
});
