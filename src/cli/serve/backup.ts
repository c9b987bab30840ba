import { existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import pg from 'pg';
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
  // all games and words of everybody: for its owner's eyes only
  process.umask(0o077);
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

/**
 * Puts the database back to what a backup holds, in one transaction: a broken file changes nothing. Where there are games
 * already, it asks, or wants to be told to replace them.
 */
export async function restore(file: string | undefined, replace: boolean): Promise<number> {
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
  await withDatabase(async (url) => {
    const games = await gamesIn(url);
    if (games > 0 && !replace && !(await agreesTo(games)))
      throw new CommandError(
        `There are ${games} games here, and nothing was changed. Save them with ./bektra backup FILE, then add --replace.`,
        EXIT.problems,
      );
    await runCommand(program, [...options, `--dbname=${url}`, source]);
  });
  process.stdout.write(`Restored from ${source}\n`);
  return EXIT.done;
}

/** How many games a database holds; none where it has not been set up yet. */
async function gamesIn(url: string): Promise<number> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query<{ known: boolean }>(
      "select to_regclass('public.games') is not null as known",
    );
    if (!rows[0]!.known) return 0;
    const counted = await client.query<{ count: number }>(
      'select count(*)::int as count from games',
    );
    return counted.rows[0]!.count;
  } finally {
    await client.end();
  }
}

/** Asks the person at the terminal; nobody there agrees to nothing. */
async function agreesTo(games: number): Promise<boolean> {
  if (!process.stdin.isTTY) return false;
  const prompt = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await prompt.question(`Replace the ${games} games that are here now? Type yes: `);
  prompt.close();
  return answer.trim().toLowerCase() === 'yes';
}
