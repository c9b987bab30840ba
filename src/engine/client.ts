import type { Engine, SearchInfo, SearchRequest } from './contract';
import type { FromThread, ToThread } from './serve';

/** A thread that runs {@link createService}. */
export interface EngineThread {
  post(message: ToThread): void;
  terminate(): void;
}

interface Pending {
  resolve(info: SearchInfo): void;
  reject(error: Error): void;
  onInfo: ((info: SearchInfo) => void) | undefined;
}

/**
 * The client's side of the contract, the same in the browser and in node.
 * @param connect starts the thread; `receive` is to be given each of its messages, `fail` its death
 */
export function connectEngine(
  connect: (receive: (message: FromThread) => void, fail: (error: Error) => void) => EngineThread,
  modules: Record<string, WebAssembly.Module>,
  tableMegabytes: number,
): Engine {
  const pending = new Map<number, Pending>();
  const stop = new Int32Array(new SharedArrayBuffer(4));
  let lastId = 0;
  let dead: Error | null = null;
  let previous: Promise<unknown> = Promise.resolve();

  const fail = (error: Error): void => {
    dead = error;
    for (const { reject } of pending.values()) reject(error);
    pending.clear();
  };
  const thread = connect((message) => {
    if (message.type === 'ready') return;
    const search = pending.get(message.id);
    if (message.type === 'info') {
      search?.onInfo?.(message.info);
      return;
    }
    pending.delete(message.id);
    if (message.type === 'done') search?.resolve(message.info);
    else search?.reject(new Error(message.message));
  }, fail);
  thread.post({
    type: 'start',
    modules,
    stop: stop.buffer as SharedArrayBuffer,
    table: tableMegabytes,
  });

  function run(
    request: SearchRequest,
    options: Parameters<Engine['search']>[1],
  ): Promise<SearchInfo> {
    if (dead) return Promise.reject(dead);
    const id = ++lastId;
    const abort = (): void => void Atomics.store(stop, 0, id);
    const { signal, onInfo } = options ?? {};
    if (signal?.aborted) abort();
    signal?.addEventListener('abort', abort, { once: true });
    return new Promise<SearchInfo>((resolve, reject) => {
      pending.set(id, { resolve, reject, onInfo });
      thread.post({ type: 'search', id, request });
    }).finally(() => signal?.removeEventListener('abort', abort));
  }

  return {
    search(request, options) {
      const result = previous.then(() => run(request, options));
      previous = result.catch(() => undefined);
      return result;
    },
    close() {
      thread.terminate();
      fail(new Error('engine closed'));
    },
  };
}
