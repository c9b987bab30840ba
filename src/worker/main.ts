import { EventEmitter } from 'node:events';
import { join } from 'node:path';
import { Logger, run, type TaskList, type WorkerEvents } from 'graphile-worker';
import { z } from 'zod';
import { engineVersion, startEngine } from '@/engine/hosts/node';
import { closeDatabase, pool } from '@/server/database';
import { listen } from '@/server/events';
import { lastingEngine } from '@/engine/lasting';
import { logger } from '@/server/log';
import { settings } from '@/server/settings';
import { recordStudy } from '@/server/studies';
import { recordProgress } from '@/server/sweeps';
import { EnginePool } from './engine-pool';
import { runImport } from './import-job';
import { Liveness } from './liveness';
import { runStudy, tryExternalEngines } from './study-job';
import { runSweep } from './sweep-job';

/** Jobs at a time: sweeps share the engines, imports need none. */
const JOBS = 4;
const LAST_ATTEMPT = 5;
const LAST_STUDY_ATTEMPT = 2;

const payloadSchema = z.object({ id: z.number() });

async function main(): Promise<void> {
  const log = logger('worker');
  const { root, engines: count, tableMegabytes } = settings();
  const files = {
    modules: join(root, 'dist/engine'),
    thread: join(root, 'dist/engine-thread.mjs'),
  };
  const versions = {
    chess: await engineVersion(files, 'chess'),
    shogi: await engineVersion(files, 'shogi'),
  };
  const engines = new EnginePool(
    await Promise.all(
      Array.from({ length: count }, () =>
        lastingEngine(() => startEngine(files, { tableMegabytes })),
      ),
    ),
  );

  let stopping = false;
  const running = new Map<string, AbortController>();
  const stopListening = listen(({ type, id, cancelled }) => {
    if (cancelled) running.get(`${type}:${id}`)?.abort();
  });
  /** Runs a job under a signal that a cancel aborts. */
  const stoppable = async (
    name: string,
    payload: unknown,
    work: (id: number, signal: AbortSignal) => Promise<void>,
  ): Promise<void> => {
    const { id } = payloadSchema.parse(payload);
    const controller = new AbortController();
    running.set(`${name}:${id}`, controller);
    try {
      await work(id, controller.signal);
      // an unfinished job must fail, so that it is taken up again
      if (stopping) throw new Error('the worker is stopping');
    } finally {
      running.delete(`${name}:${id}`);
    }
  };
  const tasks: TaskList = {
    sweep: (payload, { job }) =>
      stoppable('sweep', payload, async (id, signal) => {
        try {
          await runSweep(id, engines, (kind) => versions[kind], signal);
        } catch (error) {
          log.error({ err: error, sweep: id }, 'sweep failed');
          if (job.attempts >= LAST_ATTEMPT)
            await recordProgress(id, { state: 'failed', error: String(error) });
          else throw error;
        }
      }),
    import: (payload) => stoppable('import', payload, runImport),
    study: (payload, { job }) =>
      stoppable('study', payload, async (id, signal) => {
        try {
          await runStudy(id, engines, signal);
        } catch (error) {
          log.error({ err: error, study: id }, 'study failed');
          if (job.attempts >= LAST_STUDY_ATTEMPT)
            await recordStudy(id, { state: 'failed', error: (error as Error).message });
          else throw error;
        }
      }),
  };

  const liveness = new Liveness();
  const events: WorkerEvents = new EventEmitter();
  // jobs are locked under the name of the pool that took them
  events.on('pool:create', ({ workerPool }) => {
    liveness.register(workerPool.id).catch((error: unknown) => {
      log.fatal({ err: error }, 'could not register');
      process.exit(1);
    });
  });
  await liveness.start(() => {
    log.fatal('lost the database');
    process.exit(1);
  });
  const runner = await run({
    pgPool: pool(),
    concurrency: JOBS,
    noHandleSignals: true,
    pollInterval: 2000,
    parsedCronItems: [],
    taskList: tasks,
    events,
    logger: new Logger(() => (level, message) => {
      if (level === 'error' || level === 'warning') log.warn(message);
      else log.debug(message);
    }),
  });
  log.info({ engines: count, versions }, 'worker ready');
  tryExternalEngines().catch((error: unknown) =>
    log.error({ err: error }, 'external engines could not be tried'),
  );

  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    for (const controller of running.values()) controller.abort();
    stopListening();
    await Promise.race([runner.stop(), new Promise((done) => setTimeout(done, 3000))]);
    await liveness.stop().catch(() => {});
    engines.close();
    await closeDatabase().catch(() => {});
    process.exit(0);
  };
  process.on('SIGTERM', () => void stop());
  process.on('SIGINT', () => void stop());
}

main().catch((error: unknown) => {
  logger('worker').fatal({ err: error }, 'worker failed');
  process.exit(1);
});
