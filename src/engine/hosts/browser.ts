import type { GameKind } from '@/core/game/ruleset';
import { connectEngine } from '../client';
import type { Engine } from '../contract';
import { lastingEngine } from '../lasting';
import { DEFAULT_TABLE_MEGABYTES } from '../search-module';
import type { FromThread } from '../serve';

/**
 * Starts an engine for one game in workers of the page, which are replaced when they are lost; the module comes from
 * the app itself.
 * @param wanted threads that search together
 */
export const startBrowserEngine = (kind: GameKind, wanted = 1): Promise<Engine> =>
  lastingEngine(() => startWorkers(kind, wanted));

async function startWorkers(kind: GameKind, wanted: number): Promise<Engine> {
  // memory is shared only with a page that is isolated from others
  const threads = globalThis.crossOriginIsolated ? wanted : 1;
  const response = await fetch(`/engine/${kind}${threads > 1 ? '.shared' : ''}.wasm`);
  if (!response.ok) throw new Error(`engine: ${response.status}`);
  const compiled = await WebAssembly.compile(await response.arrayBuffer());
  return connectEngine(
    (receive, fail) => {
      const worker = new Worker(new URL('./browser.worker.ts', import.meta.url), {
        type: 'module',
      });
      worker.onmessage = (event: MessageEvent<FromThread>) => receive(event.data);
      worker.onerror = (event) => fail(new Error(event.message));
      return {
        post: (message) => worker.postMessage(message),
        terminate: () => worker.terminate(),
      };
    },
    { modules: { [kind]: compiled }, tableMegabytes: DEFAULT_TABLE_MEGABYTES, threads },
  );
}
