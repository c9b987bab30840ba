import { EngineError } from '@/engine/contract';
import { startExternal } from '@/engine/hosts/external';
import { readEnginesFile, type ConfiguredEngine } from '@/server/engines-file';
import { forgetEnginesBut, recordEngine } from '@/server/external-engines';
import { logger } from '@/server/log';

/** How soon one that failed is tried again; each time it waits twice as long, up to the longest. */
const FIRST_WAIT_MS = 15_000;
const LONGEST_WAIT_MS = 600_000;

/** What people are told of an engine that failed. */
export const sayEngineError = (error: unknown): string =>
  error instanceof EngineError ? error.message : 'the engine failed';

/** What an engine offers, and why it can't be used. */
async function tryEngine(engine: ConfiguredEngine) {
  try {
    const bare = await startExternal({ ...engine, options: {} });
    bare.close();
    // the options of the file come second, so that what is offered is known even where they do not fit
    const problem = await startExternal(engine).then((set) => (set.close(), null), sayEngineError);
    return { options: [...bare.options], problem };
  } catch (error) {
    return { options: [], problem: sayEngineError(error) };
  }
}

interface Trial {
  /** The engine as the file had it. */
  configured: string;
  problem: string | null;
  waitMs: number;
  /** When it may be tried again, in milliseconds of the clock; never for one that works. */
  next: number;
}

/**
 * Starts external engines to see what they offer or why they can't be used. Each call tries those of the file that are new, changed,
 * or failed some while ago: a busy machine, or a program that is put in place later, does not shut one out for good.
 */
export function engineTrials(
  clock: () => number = () => performance.now(),
  attempt = tryEngine,
): () => Promise<void> {
  const log = logger('engines');
  const trials = new Map<string, Trial>();
  let unreadable: string | null = null;

  const read = (): ConfiguredEngine[] | null => {
    try {
      const engines = readEnginesFile();
      unreadable = null;
      return engines;
    } catch (error) {
      const { message } = error as Error;
      if (message !== unreadable) log.error({ err: error }, 'external engines are not used');
      unreadable = message;
      return null;
    }
  };

  return async () => {
    const engines = read();
    if (!engines) return;
    for (const engine of engines) {
      const configured = JSON.stringify(engine);
      const known = trials.get(engine.name);
      const last = known?.configured === configured ? known : undefined;
      if (last && clock() < last.next) continue;
      const tried = await attempt(engine);
      const { problem } = tried;
      await recordEngine({ name: engine.name, ...tried });
      if (!problem) log.info({ engine: engine.name }, 'engine ready');
      else if (problem !== last?.problem)
        log.warn({ engine: engine.name, problem }, 'engine fails');
      const waitMs = last ? Math.min(2 * last.waitMs, LONGEST_WAIT_MS) : FIRST_WAIT_MS;
      trials.set(engine.name, {
        configured,
        problem,
        waitMs,
        next: problem ? clock() + waitMs : Infinity,
      });
    }
    await forgetEnginesBut(engines.map(({ name }) => name));
  };
}
