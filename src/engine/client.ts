import type { Answer, Question } from '@/core/ask/question';
import type { GameKind } from '@/core/game/ruleset';
import type { Engine } from './contract';
import { sharedMemory } from './search-module';
import type { FromThread, ToThread } from './serve';

/** A thread that runs {@link createService}. */
export interface EngineThread {
  post(message: ToThread): void;
  terminate(): void;
}

interface Pending {
  resolve(info: Answer): void;
  reject(error: Error): void;
  onInfo: ((info: Answer) => void) | undefined;
}

/** How an engine is set up. */
export interface EngineSetup {
  /** Compiled searches by game: those for several threads where `threads` is more than one. */
  modules: Record<string, WebAssembly.Module>;
  /** Provers of mates by game, for those of which mates by check are to be asked. */
  mates?: Partial<Record<GameKind, WebAssembly.Module>>;
  tableMegabytes: number;
  threads: number;
}

/**
 * The client's side of the contract, the same in the browser and in node; resolves once every thread is ready to search
 * at once, and rejects when one can't be.
 * @param connect starts a thread; `receive` is to be given each of its messages, `fail` its death
 */
export async function connectEngine(
  connect: (receive: (message: FromThread) => void, fail: (error: Error) => void) => EngineThread,
  { modules, mates = {}, tableMegabytes, threads: count }: EngineSetup,
): Promise<Engine> {
  const pending = new Map<number, Pending>();
  const stop = new Int32Array(new SharedArrayBuffer(8));
  const nodes = new SharedArrayBuffer(8 * count);
  const helpersBusy = new Set<string>();
  let onHelpersDone: () => void = () => {};
  let loading = count;
  let onReady: () => void = () => {};
  let onLost: (error: Error) => void = () => {};
  let lastId = 0;
  let dead: Error | null = null;
  let previous: Promise<unknown> = Promise.resolve();

  const fail = (error: Error): void => {
    dead = error;
    onLost(error);
    for (const { reject } of pending.values()) reject(error);
    pending.clear();
    helpersBusy.clear();
    onHelpersDone();
  };
  const hearReady = (): void => {
    if (--loading === 0) onReady();
  };
  const hear = (message: FromThread): void => {
    if (message.type === 'ready') return hearReady();
    const search = pending.get(message.id);
    if (message.type === 'info') {
      search?.onInfo?.(message.info);
      return;
    }
    pending.delete(message.id);
    if (message.type === 'done') search?.resolve(message.info);
    else search?.reject(new Error(message.message));
  };
  const hearHelper = (thread: number, message: FromThread): void => {
    if (message.type === 'ready') return hearReady();
    if (message.type === 'info') return;
    helpersBusy.delete(`${thread} ${message.id}`);
    if (helpersBusy.size === 0) onHelpersDone();
  };
  const memories =
    count > 1
      ? Object.fromEntries(
          Object.keys(modules).map((kind) => [kind, sharedMemory(count, tableMegabytes)]),
        )
      : {};
  const threads = Array.from({ length: count }, (_, thread) =>
    connect(thread === 0 ? hear : (message) => hearHelper(thread, message), fail),
  );
  const ready = new Promise<void>((resolve, reject) => {
    onReady = resolve;
    onLost = reject;
  });
  threads.forEach((thread, index) =>
    thread.post({
      type: 'start',
      modules,
      mates,
      signals: { stop: stop.buffer as SharedArrayBuffer, nodes },
      table: tableMegabytes,
      thread: index,
      threads: count,
      memories,
    }),
  );

  async function run(request: Question, options: Parameters<Engine['search']>[1]): Promise<Answer> {
    if (dead) throw dead;
    const id = ++lastId;
    const abort = (): void => void Atomics.store(stop, 0, id);
    const { signal, onInfo } = options ?? {};
    if (signal?.aborted) abort();
    signal?.addEventListener('abort', abort, { once: true });
    try {
      return await new Promise<Answer>((resolve, reject) => {
        pending.set(id, { resolve, reject, onInfo });
        threads.forEach((thread, index) => {
          if (index > 0) helpersBusy.add(`${index} ${id}`);
          thread.post({ type: 'search', id, request });
        });
      });
    } finally {
      signal?.removeEventListener('abort', abort);
      Atomics.store(stop, 1, id);
      if (helpersBusy.size > 0) await new Promise<void>((resolve) => (onHelpersDone = resolve));
    }
  }

  const close = (): void => {
    for (const thread of threads) thread.terminate();
    fail(new Error('engine closed'));
  };
  try {
    await ready;
  } catch (error) {
    close();
    throw error;
  }
  return {
    search(request, options) {
      const result = previous.then(() => run(request, options));
      previous = result.catch(() => undefined);
      return result;
    },
    close,
  };
}
