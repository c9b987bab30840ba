import cluster, { type Worker } from 'node:cluster';
import { join } from 'node:path';
import { settings } from '@/server/settings';

/** A process that ends sooner does not get well by being started anew here: the front door makes pauses. */
const LASTING_MS = 10_000;
/**
 * Megabytes for what is young: in 16, what many requests at once hold grows old before they end, and each process stands still for some
 * tenths of a second every few seconds to look through all that is old.
 */
const YOUNG_MEGABYTES = 64;

/**
 * The web part as several processes on one port, each of which knows only what the database knows: while one is busy with something long,
 * another answers. It ends, for the front door to start it anew, where a process ends soon after its start.
 */
function serveTogether(count: number): void {
  let stopping = false;
  cluster.setupPrimary({
    exec: join(settings().root, 'node_modules/next/dist/bin/next'),
    args: process.argv.slice(2),
    execArgv: [`--max-semi-space-size=${YOUNG_MEGABYTES}`],
  });
  const begin = (): void => {
    const started = Date.now();
    cluster.fork().on('exit', (code, signal) => {
      if (stopping) return;
      console.error(`a web process ended (${signal ?? code})`);
      if (Date.now() - started < LASTING_MS) process.exit(1);
      begin();
    });
  };
  const processes = (): Worker[] =>
    Object.values(cluster.workers ?? {}).flatMap((one) => one ?? []);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      stopping = true;
      // this process ends with the last of them
      for (const { process: one } of processes()) one.kill(signal);
    });
  for (let number = 0; number < count; number++) begin();
}

serveTogether(settings().webProcesses);
