import type { SearchInfo, SearchRequest } from './contract';
import type { SearchModule } from './search-module';

/** Messages between an engine's thread and its client; `stop` holds the number of the last search called off. */
export type ToThread =
  | {
      type: 'start';
      modules: Record<string, WebAssembly.Module>;
      stop: SharedArrayBuffer;
      table: number;
    }
  | { type: 'search'; id: number; request: SearchRequest };
export type FromThread =
  | { type: 'ready' }
  | { type: 'info'; id: number; info: SearchInfo }
  | { type: 'done'; id: number; info: SearchInfo }
  | { type: 'failed'; id: number; message: string };

/** The thread's side of the contract: answers one message after the other. */
export function createService(
  load: (kind: string, module: WebAssembly.Module, table: number) => SearchModule,
  post: (message: FromThread) => void,
): (message: ToThread) => void {
  const loaded = new Map<string, SearchModule>();
  let start: Extract<ToThread, { type: 'start' }> | null = null;
  let stop: Int32Array = new Int32Array(1);

  function moduleOf(kind: string): SearchModule {
    const known = loaded.get(kind);
    if (known) return known;
    const compiled = start?.modules[kind];
    if (!compiled) throw new Error(`no search for ${kind}`);
    const search = load(kind, compiled, start!.table);
    loaded.set(kind, search);
    return search;
  }

  return (message) => {
    if (message.type === 'start') {
      start = message;
      stop = new Int32Array(message.stop);
      post({ type: 'ready' });
      return;
    }
    const { id, request } = message;
    try {
      const host = {
        shouldStop: () => Atomics.load(stop, 0) >= id,
        now: () => performance.now(),
      };
      const info = moduleOf(request.kind).search(request, host, (found) =>
        post({ type: 'info', id, info: found }),
      );
      post({ type: 'done', id, info });
    } catch (error) {
      post({ type: 'failed', id, message: error instanceof Error ? error.message : String(error) });
    }
  };
}
