import type { Engine } from './contract';

/**
 * An engine that outlives its threads: a search that fails is done again on another engine, once.
 * @param start called now, and again whenever an engine is lost; rejects where the first can't be started
 */
export async function lastingEngine(start: () => Promise<Engine>): Promise<Engine> {
  let current: Promise<Engine> | null = start();
  let isClosed = false;
  const release = (engine: Promise<Engine> | null): void => {
    engine?.then((started) => started.close()).catch(() => undefined);
  };
  const searchOnce: Engine['search'] = async (request, options) => {
    if (isClosed) throw new Error('engine closed');
    const engine = (current ??= start());
    try {
      return await (await engine).search(request, options);
    } catch (error) {
      // others that waited for the same one fail with it
      if (current === engine) current = null;
      release(engine);
      throw error;
    }
  };
  await current;
  return {
    search: (request, options) =>
      searchOnce(request, options).catch(() => searchOnce(request, options)),
    close() {
      isClosed = true;
      release(current);
    },
  };
}
