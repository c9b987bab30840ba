import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import type { PartLog } from './part-log';

export interface Supervised {
  /** The process that runs at present, if any. */
  pid(): number | null;
  /** Ends the process, to be started anew. */
  restart(): void;
  /** Starts the process at once where a pause would keep it waiting. */
  wake(): void;
  /** Ends the process and waits until it is gone. */
  stop(): Promise<void>;
}

const SHORTEST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 10_000;
const KILL_AFTER_MS = 8000;

/** Runs a program and starts it anew whenever it dies, with growing pauses, until it is stopped. */
export function supervise(
  name: string,
  start: () => ChildProcess,
  say: (text: string) => void,
  onStart: () => void,
): Supervised {
  let child: ChildProcess | null = null;
  let stopping = false;
  let pause = SHORTEST_PAUSE_MS;
  let timer: NodeJS.Timeout | null = null;
  const launch = (): void => {
    timer = null;
    child = start();
    onStart();
    const started = Date.now();
    child.on('exit', (code, signal) => {
      child = null;
      if (stopping) return;
      pause =
        Date.now() - started > 30_000 ? SHORTEST_PAUSE_MS : Math.min(pause * 2, LONGEST_PAUSE_MS);
      say(`${name} ended (${signal ?? code}); starting it again`);
      timer = setTimeout(launch, pause);
    });
  };
  const wake = (): void => {
    if (!timer || stopping) return;
    clearTimeout(timer);
    pause = SHORTEST_PAUSE_MS;
    launch();
  };
  launch();
  return {
    pid: () => child?.pid ?? null,
    restart: () => void child?.kill('SIGTERM'),
    wake,
    stop: () =>
      new Promise((resolve) => {
        stopping = true;
        if (timer) clearTimeout(timer);
        const last = child;
        if (!last || last.exitCode !== null) return resolve();
        const kill = setTimeout(() => last.kill('SIGKILL'), KILL_AFTER_MS);
        last.once('exit', () => {
          clearTimeout(kill);
          resolve();
        });
        last.kill('SIGTERM');
      }),
  };
}

/** Starts a node program whose output is kept in a log. @param detached in a session of its own, which a signal of the terminal does not reach */
export function startNode(
  args: readonly string[],
  env: Readonly<Record<string, string>>,
  cwd: string,
  log: PartLog,
  detached = false,
): ChildProcess {
  const child = spawn(process.execPath, args, {
    cwd,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
    detached,
  });
  log.take(child.stdout);
  log.take(child.stderr);
  return child;
}

const CHECK_MS = 1000;

/** Looks whether something runs, and starts it anew where it does not, until it is stopped. */
export function keepRunning(
  name: string,
  isRunning: () => Promise<boolean>,
  start: () => Promise<unknown>,
  say: (text: string) => void,
): { stop(): Promise<void> } {
  let stopping = false;
  const wait = (): Promise<void> => new Promise((next) => setTimeout(next, CHECK_MS));
  const watch = async (): Promise<void> => {
    for (await wait(); !stopping; await wait()) {
      if (stopping || (await isRunning())) continue;
      say(`${name} ended; starting it again`);
      await start().catch((error: Error) => say(`${name} does not start: ${error.message}`));
    }
  };
  const watched = watch();
  return {
    stop: async () => {
      stopping = true;
      await watched;
    },
  };
}

/** Starts a worker, in a session of its own: what a session does as a whole can give way to others. */
export const startWorker = (root: string, log: PartLog): ChildProcess =>
  startNode([join(root, 'dist/worker.mjs')], {}, root, log, true);
