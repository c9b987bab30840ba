import { healthOf } from '@/server/health';
import { closeDatabase, databaseUrl } from '@/server/database';
import { settings } from '@/server/settings';
import { CommandError, EXIT } from '../exit';
import { PartLog } from './part-log';
import { startWorker, supervise } from './supervise';

const say = (text: string): void => void process.stdout.write(`${text}\n`);

/** `worker`: runs one worker more beside those of the app, begun anew when it ends, until told to stop. */
export async function runExtraWorker(): Promise<number> {
  const { root, data } = settings();
  await requireDatabase();
  const log = new PartLog(data, 'extra-worker');
  const worker = supervise(
    'worker',
    () => startWorker(root, log),
    say,
    () => undefined,
  );
  say('A worker runs. Stop it with Ctrl-C.');
  await new Promise<void>((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
      process.on(signal, () => resolve());
  });
  await worker.stop();
  return EXIT.done;
}

async function requireDatabase(): Promise<void> {
  try {
    databaseUrl();
  } catch {
    throw new CommandError(
      'There is no database here. Start Bektra with ./bektra start, or name the database of another machine: BEKTRA_DATABASE_URL in settings.env.',
    );
  }
  const { database } = await healthOf();
  await closeDatabase();
  if (!database)
    throw new CommandError(
      'The database does not answer. See that it runs, and that BEKTRA_DATABASE_URL is right.',
    );
}
