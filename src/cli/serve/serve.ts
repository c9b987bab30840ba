import { createServer } from 'node:net';
import { join } from 'node:path';
import { closeDatabase, migrateDatabase } from '@/server/database';
import { fillFingerprints, fillOpenings, fillSearched } from '@/server/fill';
import { fillPlayers } from '@/server/players';
import { settings, type Settings } from '@/server/settings';
import { CommandError, EXIT } from '../exit';
import { seedDemo } from '../demo';
import { Cluster, freePort } from './cluster';
import { showFirstViews } from './first-views';
import { endOrphans, forgetRunning, noteRunning, runningServer } from './run-file';
import { PartLog } from './part-log';
import { keepRunning, startNode, startWorker, supervise, type Supervised } from './supervise';
import { buildWeb, publishEngine } from './web-build';

const say = (text: string): void => void process.stdout.write(`${text}\n`);
const READY_WITHIN_MS = 120_000;
/** An app that runs already may just be getting over something. */
const ANSWERS_WITHIN_MS = 12_000;

/** `start` and `dev`: sets everything up, serves until told to stop, and prints the URL last. */
export async function serve(mode: 'start' | 'dev'): Promise<number> {
  const config = settings();
  const other = await runningServer(config.data);
  if (other) {
    if (!(await untilHealthy(other.url, () => false, ANSWERS_WITHIN_MS)))
      throw new CommandError(
        `Bektra is running already (process ${other.pid}), but not all of it answers at ${other.url}api/health\n` +
          `Run ./bektra stop and start it again; ${join(config.data, 'logs')} says more.`,
      );
    say(`Bektra is running already:\n${other.url}`);
    return EXIT.done;
  }
  await endOrphans(config.data);
  const cluster = config.databaseUrl ? null : new Cluster(config.data);
  const parts: Supervised[] = [];
  let databaseWatch: { stop(): Promise<void> } | null = null;
  let stopping: Promise<void> | null = null;
  const stop = (): Promise<void> =>
    (stopping ??= (async () => {
      await databaseWatch?.stop();
      await Promise.all(parts.map((part) => part.stop()));
      await closeDatabase().catch(() => {});
      await cluster?.stop();
      await forgetRunning(config.data);
    })());
  const stopped = new Promise<void>((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
      process.on(signal, () => void stop().then(resolve));
  });
  try {
    const known = await cluster?.start();
    if (cluster) {
      const startAgain = async (): Promise<void> => {
        // the parts know the server by its address
        const moved = (await cluster.start()) !== known;
        for (const part of parts) {
          if (moved) part.restart();
          part.wake();
        }
      };
      databaseWatch = keepRunning('database', () => cluster.isRunning(), startAgain, say);
    }
    await migrateDatabase();
    await fillSearched();
    await fillFingerprints();
    await fillOpenings();
    await fillPlayers();
    await seedDemo(say);
    if (mode === 'start') await buildWeb(config.root, say);
    else await publishEngine(config.root);
    if (stopping) return EXIT.done;
    const port = await choosePort(config);
    const url = `http://${config.host}:${port}/`;
    let noted: Promise<void> = Promise.resolve();
    const note = (): void => {
      noted = noted.then(() => {
        const pids = parts.map((part) => part.pid()).filter((pid) => pid !== null);
        return noteRunning(config.data, { pid: process.pid, url, parts: pids });
      });
    };
    parts.push(superviseWeb(mode, config, port, note), superviseWorker(config, note));
    note();
    await noted;
    // a signal that came while the parts were being started has not reached them
    if (stopping) await Promise.all(parts.map((part) => part.stop()));
    else if (await untilHealthy(url, () => stopping !== null, READY_WITHIN_MS)) {
      if (mode === 'start') await showFirstViews(url, config.webProcesses);
      if (!stopping) say(`Bektra is ready. Stop it with Ctrl-C or ./bektra stop.\n${url}`);
    } else if (!stopping)
      throw new CommandError('The web app did not become ready; see the messages above.');
  } catch (error) {
    await stop();
    throw error;
  }
  await stopped;
  return EXIT.done;
}

/** How long a connection stays open that nothing comes through: longer than those on the other side, who would ask just as it is closed. */
const KEPT_OPEN_MS = 75_000;

function superviseWeb(
  mode: 'start' | 'dev',
  config: Settings,
  port: number,
  onStart: () => void,
): Supervised {
  const program =
    mode === 'start' && config.webProcesses > 1
      ? 'dist/web.mjs'
      : 'node_modules/next/dist/bin/next';
  const args = [join(config.root, program), mode, '-p', String(port), '-H', config.host];
  if (mode === 'start') args.push('--keepAliveTimeout', String(KEPT_OPEN_MS));
  const env = {
    NEXT_TELEMETRY_DISABLED: '1',
    NODE_ENV: mode === 'dev' ? 'development' : 'production',
  };
  const log = new PartLog(config.data, 'web');
  return supervise('web', () => startNode(args, env, config.root, log), say, onStart);
}

function superviseWorker(config: Settings, onStart: () => void): Supervised {
  const log = new PartLog(config.data, 'worker');
  return supervise('worker', () => startWorker(config.root, log), say, onStart);
}

async function choosePort({ host, port }: Settings): Promise<number> {
  if (port === 0) return freePort();
  const free = await new Promise<boolean>((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, host, () => probe.close(() => resolve(true)));
  });
  return free ? port : freePort();
}

/** Whether all parts come to answer in time; false also when told to stop before. */
async function untilHealthy(
  url: string,
  isStopping: () => boolean,
  within: number,
): Promise<boolean> {
  const deadline = Date.now() + within;
  while (Date.now() < deadline && !isStopping()) {
    const answer = await fetch(`${url}api/health`, { signal: AbortSignal.timeout(3000) }).catch(
      () => null,
    );
    if (answer?.ok) return true;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  return false;
}

/** Stops the server that runs on the data folder, and waits until it is gone. */
export async function stopServer(): Promise<number> {
  const { data, databaseUrl } = settings();
  const server = await runningServer(data);
  if (server) {
    process.kill(server.pid, 'SIGTERM');
    while (await runningServer(data)) await new Promise((resolve) => setTimeout(resolve, 100));
    say('Bektra has stopped.');
    return EXIT.done;
  }
  await endOrphans(data);
  if (!databaseUrl) await new Cluster(data).stop();
  await forgetRunning(data);
  say('Bektra is not running.');
  return EXIT.done;
}

/** Runs work with the database up, starting the private one for the time being where it is down; however it ends, no connection stays. */
export async function withDatabase<T>(work: (url: string) => Promise<T>): Promise<T> {
  const { databaseUrl, data } = settings();
  const done = (url: string): Promise<T> =>
    work(url).finally(() => closeDatabase().catch(() => {}));
  if (databaseUrl) return done(databaseUrl);
  const cluster = new Cluster(data);
  const running = await cluster.runningUrl();
  if (running) return done(running);
  const url = await cluster.start();
  try {
    return await done(url);
  } finally {
    await cluster.stop();
  }
}
