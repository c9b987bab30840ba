import { spawn, type ChildProcess } from 'node:child_process';
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
  await withDatabase(async (url) => {
    const games = await gamesIn(url);
    if (games > 0 && !replace && !(await agreesTo(games)))
      throw new CommandError(
        `There are ${games} games here, and nothing was changed. Save them with ./bektra backup FILE, then add --replace.`,
        EXIT.problems,
      );
    await replaceBy(source, url);
  });
  process.stdout.write(`Restored from ${source}\n`);
  return EXIT.done;
}

/**
 * Tables go first, all of them: PostgreSQL's own clean-up can't take partitions away one by one, nor what a backup does not know that
 * stands on what it does.
 */
const BEFORE = `set client_min_messages = warning;
begin;
do $$ declare name text; begin
  for name in select tablename from pg_tables where schemaname = 'public' loop
    execute format('drop table if exists public.%I cascade', name);
  end loop;
end $$;
`;

/** Puts what a backup holds in place of what is there, in one transaction that is given up where anything fails. */
async function replaceBy(source: string, url: string): Promise<void> {
  const binaries = await postgresBinaries();
  const reading = spawn(
    join(binaries, 'pg_restore'),
    ['--clean', '--if-exists', '--no-owner', '--file=-', source],
    { stdio: ['ignore', 'pipe', 'pipe'] },
  );
  const writing = spawn(
    join(binaries, 'psql'),
    ['--no-psqlrc', '--quiet', '--output=/dev/null', '--set=ON_ERROR_STOP=1', `--dbname=${url}`],
    { stdio: ['pipe', 'ignore', 'pipe'] },
  );
  // who has stopped listening says why at its end
  writing.stdin.on('error', () => reading.kill());
  writing.stdin.write(BEFORE);
  reading.stdout.pipe(writing.stdin, { end: false });
  const read = endOf(reading, 'pg_restore');
  const written = endOf(writing, 'psql');
  const problem = await read;
  // without that word nothing has happened
  writing.stdin.end(problem === null ? '\ncommit;\n' : '');
  const refusal = (await written) ?? problem;
  if (refusal !== null) throw new CommandError(refusal);
}

/** What a program that failed had to say; null where it did not fail. */
function endOf(child: ChildProcess, name: string): Promise<string | null> {
  let said = '';
  child.stderr!.on('data', (piece: Buffer) => (said += piece.toString()));
  return new Promise((done) => {
    child.on('error', (error) => done(`${name}: ${error.message}`));
    child.on('close', (code) =>
      done(code === 0 ? null : `${name} failed (${code}):\n${said.trim()}`),
    );
  });
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
