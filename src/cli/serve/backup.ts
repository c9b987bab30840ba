import { existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { settings } from '@/server/settings';
import { CommandError, EXIT, usageError } from '../exit';
import { postgresBinaries } from './cluster';
import { runCommand } from './run-command';
import { runningServer } from './run-file';
import { withDatabase } from './serve';

/** Writes the whole database to a file (PostgreSQL's custom format); an unfinished file never takes the name. */
export async function backup(file: string | undefined): Promise<number> {
  if (!file) throw usageError('Say where to: ./bektra backup FILE');
  const target = resolve(file);
  const unfinished = `${target}.unfinished-${process.pid}`;
  const program = join(await postgresBinaries(), 'pg_dump');
  try {
    await withDatabase((url) =>
      runCommand(program, [
        '--format=custom',
        '--no-owner',
        `--file=${unfinished}`,
        `--dbname=${url}`,
      ]),
    );
    await rename(unfinished, target);
  } finally {
    await rm(unfinished, { force: true });
  }
  process.stdout.write(`Saved to ${target}\n`);
  return EXIT.done;
}

/** Puts the database back to what a backup holds, in one transaction: a broken file changes nothing. */
export async function restore(file: string | undefined): Promise<number> {
  if (!file) throw usageError('Say from what: ./bektra restore FILE');
  const source = resolve(file);
  if (!existsSync(source)) throw new CommandError(`${source}: no such file`);
  if (await runningServer(settings().data))
    throw new CommandError('Stop Bektra first: ./bektra stop');
  const program = join(await postgresBinaries(), 'pg_restore');
  const options = [
    '--clean',
    '--if-exists',
    '--no-owner',
    '--single-transaction',
    '--exit-on-error',
  ];
  await withDatabase((url) => runCommand(program, [...options, `--dbname=${url}`, source]));
  process.stdout.write(`Restored from ${source}\n`);
  return EXIT.done;
}
