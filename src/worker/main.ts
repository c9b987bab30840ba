import { EventEmitter } from 'node:events';
import { join } from 'node:path';
import { Logger, run, type Task, type WorkerEvents } from 'graphile-worker';
import * as z from 'zod';
import { CalledOff } from '@/core/ask/question';
import type { GameKind } from '@/core/game/ruleset';
import { engineVersion, startEngine } from '@/engine/hosts/node';
import { countFailure, recordAsk } from '@/server/asks';
import { database, pool } from '@/server/database';
import { listen } from '@/server/events';
import { lastingEngine } from '@/engine/lasting';
import { reckonAnew } from '@/server/findings';
import { logger } from '@/server/log';
import { queueStaleBases } from '@/server/bases';
import { feedBatches, IMPORT_LANES, TASK_NAMES, type JobName, type TaskName } from '@/server/queue';
import { PROOF_LANES } from '@/server/proofs';
import type { JobPlan } from '@/server/schema';
import { settings } from '@/server/settings';
import { tidy } from '@/server/tidy';
import { toldError } from '@/server/told-error';
import { Claims } from './claims';
import { EnginePool, type Urgency } from './engine-pool';
import { fillBase } from './base-job';
import { makeEndings } from './ending-job';
import { surveyEndings } from './ending-survey';
import { engineTrials, sayEngineError } from './engine-trials';
import { giveWay } from './give-way';
import { runImport } from './import-job';
import { Liveness } from './liveness';
import { runProof } from './proof-job';
import { runStudy } from './study-job';
import { runSweep } from './sweep-job';
import { takeWatched, type Seen } from './watch-folder';

/** Jobs of each kind at a time, so that no kind waits for another; sweeps and studies share the engines; imports have a slot for each lane and one for what is in none. */
const SLOTS: Record<TaskName, number> = {
  sweep: 4,
  batch: 4,
  import: Object.keys(IMPORT_LANES).length + 1,
  study: 8,
  proof: PROOF_LANES.length,
  base: 1,
};
/** How often in a row each may fail before it is given up. */
const LAST_FAILURE = { sweep: 5, study: 2, proof: 3 };

/** A worker that stops waits so long for what its jobs are about to store. */
const LONGEST_END_MS = 3000;

/**
 * Who looks for a job locks all lanes for that moment, and others see none of the jobs in them: the slots of each kind look again at
 * moments of their own, within these times after something has come, and then over and over, never in step with those of another kind.
 */
const LOOK_AGAIN_MS = [200, 1000];
const LOOK_MS = 2000;
const LOOK_APART_MS = 70;

/** How often batches are looked after besides. */
const FEED_MS = 30_000;

/** How long it is from one look at the watched folder to the next. */
const WATCH_MS = 3000;

/** How soon a base follows the library. */
const BASES_MS = 10_000;

/** How often what is over is let go of. */
const TIDY_MS = 3600_000;

/** How often ending tables that are missing, or were taken away as damaged, are looked for. */
const ENDINGS_MS = 60_000;

/** How soon the endings of games that are new are found. */
const SURVEY_MS = 10_000;

/** How often external engines that failed, or that the file names anew, are looked for. */
const TRY_MS = 15_000;

/** Does something over and over for as long as the worker lives, so long after it was done last; trouble is told of. */
function keepDoing(what: string, everyMs: number, work: () => Promise<void>): void {
  const once = async (): Promise<void> => {
    await work().catch((error: unknown) => logger('worker').error({ err: error }, what));
    setTimeout(() => void once(), everyMs).unref();
  };
  void once();
}

const payloadSchema = z.object({ id: z.number() });

async function main(): Promise<void> {
  const log = logger('worker');
  const { root, engines: count, tableMegabytes, watch } = settings();
  giveWay();
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

  const liveness = new Liveness();
  const claims = new Claims(liveness.session);

  let stopping = false;
  const running = new Map<string, { controller: AbortController; ended: Promise<void> }>();
  const stopListening = listen(({ type, id, cancelled }) => {
    if (cancelled) running.get(`${type}:${id}`)?.controller.abort();
  });
  /**
   * A task of the queue that runs under a signal which a cancel aborts. When this worker stops it does not end: the job stays
   * this worker's until the process is gone, and is then taken up by another.
   */
  const task =
    (name: JobName, work: (id: number, signal: AbortSignal) => Promise<void>): Task =>
    async (payload) => {
      const { id } = payloadSchema.parse(payload);
      const controller = new AbortController();
      if (stopping) controller.abort();
      const key = `${name}:${id}`;
      const ended = work(id, controller.signal).finally(() => running.delete(key));
      running.set(key, { controller, ended });
      try {
        await ended;
      } catch (error) {
        // the queue stores what it is thrown
        throw new Error(toldError(error).message, { cause: undefined });
      } finally {
        if (stopping) await new Promise(() => {});
      }
    };
  /** A task for what people ask of engines: called off it ends in silence, and what fails again and again is given up. */
  const asked = (plan: JobPlan, work: (id: number, signal: AbortSignal) => Promise<void>): Task =>
    task(plan, async (id, signal) => {
      try {
        await work(id, signal);
      } catch (error) {
        if (error instanceof CalledOff) return;
        log.error({ err: error, [plan]: id }, 'what was asked failed');
        if ((await countFailure(id)) < LAST_FAILURE[plan]) throw error;
        await recordAsk(id, { state: 'failed', error: sayEngineError(error) });
      }
    });
  const versionOf = (kind: GameKind): string => versions[kind];
  /** A sweep has left the queue, however it ended: there is room for the next of a batch. */
  const feeding =
    (task: Task): Task =>
    async (payload, helpers) => {
      try {
        await task(payload, helpers);
      } finally {
        await feedBatches(database());
      }
    };
  const sweeping = (urgency: Urgency): Task =>
    feeding(
      asked('sweep', (id, signal) => runSweep(id, engines, claims, versionOf, urgency, signal)),
    );
  const tasks: Record<TaskName, Task> = {
    sweep: sweeping('game'),
    batch: sweeping('batch'),
    study: asked('study', (id, signal) => runStudy(id, engines, versionOf, signal)),
    proof: asked('proof', (id, signal) => runProof(id, versionOf, signal)),
    import: task('import', runImport),
    base: task('base', fillBase),
  };

  const events: WorkerEvents = new EventEmitter();
  // jobs are locked under the name of the pool that took them
  events.on('pool:create', ({ workerPool }) => {
    liveness.register(workerPool.id).catch((error: unknown) => {
      log.fatal({ err: error }, 'could not register');
      process.exit(1);
    });
  });
  events.on('pool:listen:notification', ({ workerPool }) => {
    for (const within of LOOK_AGAIN_MS)
      setTimeout(() => workerPool.nudge(1), within * Math.random()).unref();
  });
  await liveness.start(() => {
    log.fatal('lost the database');
    process.exit(1);
  });
  for (const [at, name] of TASK_NAMES.entries())
    await run({
      pgPool: pool(),
      concurrency: SLOTS[name],
      noHandleSignals: true,
      pollInterval: LOOK_MS + at * LOOK_APART_MS,
      parsedCronItems: [],
      taskList: { [name]: tasks[name] },
      events,
      logger: new Logger(() => (level, message) => {
        if (level === 'error' || level === 'warning') log.warn(toldError(message).message);
        else log.debug(message);
      }),
    });
  log.info({ engines: count, versions }, 'worker ready');
  reckonAnew().then(
    (count) => count > 0 && log.info({ count }, 'findings reckoned anew'),
    (error: unknown) => log.error({ err: error }, 'findings could not be reckoned anew'),
  );
  // what has left the queue without a worker leaves room too
  keepDoing('ending tables could not be made', ENDINGS_MS, makeEndings);
  keepDoing('endings could not be surveyed', SURVEY_MS, surveyEndings);
  keepDoing('batches could not be fed', FEED_MS, () => feedBatches(database()));
  keepDoing('could not tidy up', TIDY_MS, tidy);
  keepDoing('bases could not be looked after', BASES_MS, queueStaleBases);
  keepDoing('external engines could not be tried', TRY_MS, engineTrials());
  if (watch !== null) {
    const seen: Seen = new Map();
    keepDoing('the watched folder could not be looked at', WATCH_MS, () =>
      takeWatched(watch, seen),
    );
  }

  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    const jobs = [...running.values()];
    for (const { controller } of jobs) controller.abort();
    stopListening();
    const ended = Promise.allSettled(jobs.map((job) => job.ended));
    await Promise.race([ended, new Promise((done) => setTimeout(done, LONGEST_END_MS))]);
    await liveness.stop().catch(() => {});
    engines.close();
    process.exit(0);
  };
  // one job's trouble is not another's: what nobody waits for is told and forgotten
  process.on('unhandledRejection', (error) => log.error({ err: error }, 'nobody waited for this'));
  process.on('SIGTERM', () => void stop());
  process.on('SIGINT', () => void stop());
}

main().catch((error: unknown) => {
  logger('worker').fatal({ err: error }, 'worker failed');
  process.exit(1);
});
