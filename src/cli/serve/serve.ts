import { createServer } from 'node:net';
import { join } from 'node:path';
import { closeDatabase, migrateDatabase } from '@/server/database';
import { settings, type Settings } from '@/server/settings';
import { CommandError, EXIT } from '../exit';
import { seedDemo } from '../demo';
import { Cluster, freePort } from './cluster';
import { endOrphans, forgetRunning, noteRunning, runningServer } from './run-file';
import { startNode, supervise, type Supervised } from './supervise';
import { buildWeb, publishEngine } from './web-build';

const say = (text: string): void => void process.stdout.write(`${text}\n`);
const READY_WITHIN_MS = 120_000;

/** `start` and `dev`: sets everything up, serves until told to stop, and prints the URL last. */
export async function serve(mode: 'start' | 'dev'): Promise<number> {
  const config = settings();
  const other = await runningServer(config.data);
  if (other) {
    say(`Bektra is running already:\n${other.url}`);
    return EXIT.done;
  }
  await endOrphans(config.data);
  const cluster = config.databaseUrl ? null : new Cluster(config.data);
  const parts: Supervised[] = [];
  let stopping: Promise<void> | null = null;
  const stop = (): Promise<void> =>
    (stopping ??= (async () => {
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
    await cluster?.start();
    await migrateDatabase();
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
    else if (await untilHealthy(url, () => stopping !== null))
      say(`Bektra is ready. Stop it with Ctrl-C or ./bektra stop.\n${url}`);
  } catch (error) {
    await stop();
    throw error;
  }
  await stopped;
  return EXIT.done;
}

function superviseWeb(
  mode: 'start' | 'dev',
  config: Settings,
  port: number,
  onStart: () => void,
): Supervised {
  const next = join(config.root, 'node_modules/next/dist/bin/next');
  const args = [next, mode, '-p', String(port), '-H', config.host];
  const env = {
    NEXT_TELEMETRY_DISABLED: '1',
    NODE_ENV: mode === 'dev' ? 'development' : 'production',
  };
  return supervise('web', () => startNode(args, env, config.root), say, onStart);
}

const superviseWorker = (config: Settings, onStart: () => void): Supervised =>
  supervise(
    'worker',
    () => startNode([join(config.root, 'dist/worker.mjs')], {}, config.root),
    say,
    onStart,
  );

async function choosePort({ host, port }: Settings): Promise<number> {
  if (port === 0) return freePort();
  const free = await new Promise<boolean>((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, host, () => probe.close(() => resolve(true)));
  });
  return free ? port : freePort();
}

/** True once the app answers; false when it is told to stop before. */
async function untilHealthy(url: string, isStopping: () => boolean): Promise<boolean> {
  const deadline = Date.now() + READY_WITHIN_MS;
  while (Date.now() < deadline) {
    if (isStopping()) return false;
    const answer = await fetch(`${url}api/health`).catch(() => null);
    if (answer?.ok) return true;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new CommandError('The web app did not become ready; see the messages above.');
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

/** Runs work with the database up, starting the private one for the time being where it is down. */
export async function withDatabase<T>(work: (url: string) => Promise<T>): Promise<T> {
  const { databaseUrl, data } = settings();
  if (databaseUrl) return work(databaseUrl);
  const cluster = new Cluster(data);
  const running = await cluster.runningUrl();
  if (running) return work(running);
  const url = await cluster.start();
  try {
    return await work(url);
  } finally {
    await closeDatabase().catch(() => {});
    await cluster.stop();
  }
}
