import { spawn } from 'node:child_process';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { settings } from '@/server/settings';
import { Slots } from '@/server/slots';
import { EXIT } from './exit';
import { Cluster } from './serve/cluster';
import { buildWeb } from './serve/web-build';
import { browserTally, tallyOf, unitTally, type Tally } from './test-reports';

/** So much is told again of each failure. */
const MOST_LINES = 12;

const say = (text: string): void => void process.stdout.write(`${text}\n`);

type Env = Readonly<Record<string, string>>;

/** Runs a program with its output shown, and tells whether it succeeded. */
const run = (root: string, args: readonly string[], env: Env = {}): Promise<boolean> =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, args, {
      cwd: root,
      env: { ...process.env, FORCE_COLOR: '0', ...env },
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    child.on('exit', (code) => resolve(code === 0));
    child.on('error', () => resolve(false));
  });

const bin = (root: string, path: string): string => join(root, 'node_modules', path);

/** Checks that pass or fail as a whole. */
const CHECKS: readonly [string, (root: string) => string[]][] = [
  [
    'format',
    (root) => [bin(root, 'prettier/bin/prettier.cjs'), '--check', '--log-level', 'warn', '.'],
  ],
  ['lint', (root) => [bin(root, 'eslint/bin/eslint.js'), '.']],
  ['types', (root) => [bin(root, 'typescript/bin/tsc'), '--noEmit', '-p', '.']],
  [
    'boundaries',
    (root) => [
      bin(root, 'dependency-cruiser/bin/dependency-cruise.mjs'),
      ...['--config', '.dependency-cruiser.cjs', '--output-type', 'err', 'src', 'demo'],
    ],
  ],
  ['unused code', (root) => [bin(root, 'knip/bin/knip.js'), '--no-progress', '--no-config-hints']],
];

async function runChecks(root: string): Promise<Tally> {
  const tally: Tally = { passed: 0, failed: 0, failures: [] };
  const slots = new Slots(availableParallelism());
  await Promise.all(
    CHECKS.map(([name, args]) =>
      slots.run(async () => {
        const passed = await run(root, args(root));
        say(`${passed ? 'ok    ' : 'FAILED'} ${name}`);
        if (passed) tally.passed++;
        else {
          tally.failed++;
          tally.failures.push(name);
        }
      }),
    ),
  );
  return tally;
}

async function runUnitTests(root: string, data: string, url: string): Promise<Tally> {
  const report = join(data, 'vitest.json');
  const succeeded = await run(
    root,
    [
      bin(root, 'vitest/vitest.mjs'),
      ...['run', '--reporter=dot', '--reporter=json', `--outputFile.json=${report}`],
    ],
    { BEKTRA_DATABASE_URL: url, BEKTRA_LOG: 'silent' },
  );
  return tallyOf(report, succeeded, unitTally);
}

/** Where the apps that browser tests run beside keep their data. */
const APPS = ['app-1', 'app-2'];

async function runBrowserTests(root: string, data: string): Promise<Tally> {
  const folder = join(data, 'browser');
  const starting = await Promise.allSettled(APPS.map((name) => startApp(root, join(data, name))));
  const apps = starting.flatMap((app) => (app.status === 'fulfilled' ? [app.value] : []));
  for (const app of starting) if (app.status === 'rejected') say(String(app.reason));
  const report = join(folder, 'playwright.json');
  const succeeded =
    apps.length === APPS.length &&
    (await run(root, [bin(root, '@playwright/test/cli.js'), 'test'], {
      BEKTRA_TEST_URL: apps.map(({ url }) => url).join(' '),
      BEKTRA_TEST_FOLDER: folder,
      BEKTRA_TEST_REPORT: report,
    }));
  await Promise.all(apps.map((app) => app.stop()));
  return tallyOf(report, succeeded, browserTally);
}

/** A server's file of external engines: our own, run as programs of their own, and one that can't be used. */
async function writeEnginesFile(root: string, path: string): Promise<void> {
  const command = (kind: string): string[] => [
    process.execPath,
    join(root, 'dist/cli.mjs'),
    'engine',
    kind,
  ];
  const engine = (name: string, kind: string, options: Record<string, string>) => ({
    name,
    kind,
    command: command(kind),
    options,
    users: 'everyone',
  });
  const engines = [
    engine('Second opinion', 'chess', { Hash: '8' }),
    engine('Second opinion (shogi)', 'shogi', { USI_Hash: '8' }),
    engine('Misconfigured', 'chess', { Hash: 'plenty' }),
  ];
  await writeFile(path, JSON.stringify({ engines }, null, 2));
}

/** Positions that are doubted are looked at for about a second in tests. */
const DOUBT_NODES = '600000';

/** Starts the app as a user does, on a data folder of its own in `folder`; resolves with its URL and what stops it. */
async function startApp(
  root: string,
  folder: string,
): Promise<{ url: string; stop(): Promise<void> }> {
  await mkdir(folder, { recursive: true });
  const enginesFile = join(folder, 'engines.json');
  await writeEnginesFile(root, enginesFile);
  const child = spawn(process.execPath, [join(root, 'dist/cli.mjs'), 'start'], {
    cwd: root,
    env: {
      ...process.env,
      BEKTRA_DATA: join(folder, 'data'),
      BEKTRA_PORT: '0',
      BEKTRA_LOG: 'warn',
      BEKTRA_DOUBT_NODES: DOUBT_NODES,
      // made in a second
      BEKTRA_ENDING_PIECES: '3',
      // tests go over what they need
      BEKTRA_DEMO: 'unswept',
      // browsers take all that they can get, and wait for what workers do
      BEKTRA_WORKER_NICE: '0',
      BEKTRA_ENGINES_FILE: enginesFile,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const stop = (): Promise<void> =>
    new Promise((resolve) => {
      if (child.exitCode !== null) return resolve();
      child.once('exit', () => resolve());
      child.kill('SIGTERM');
    });
  return new Promise((resolve, reject) => {
    let output = '';
    child.stdout.on('data', (piece: Buffer) => {
      output += piece.toString();
      const url = /Bektra is ready[^\n]*\n(http\S+)\n/.exec(output)?.[1];
      if (url) resolve({ url, stop });
    });
    child.once('exit', (code) => reject(new Error(`the app ended with ${code}:\n${output}`)));
  });
}

/** `test`: every check there is. `parts`: checks, unit, browser; all of them where none is named. */
export async function runTests(parts: readonly string[]): Promise<number> {
  const { root } = settings();
  const data = join(root, '.data-test');
  const wanted = (part: string): boolean => parts.length === 0 || parts.includes(part);
  const total: Tally = { passed: 0, failed: 0, failures: [] };
  const add = ({ passed, failed, failures }: Tally): void => {
    total.passed += passed;
    total.failed += failed;
    total.failures.push(...failures);
  };
  // what a run that was broken off left running
  for (const left of ['unit', ...APPS.map((name) => `${name}/data`)])
    await new Cluster(join(data, left)).stop().catch(() => {});
  await rm(data, { recursive: true, force: true });
  await mkdir(data, { recursive: true });
  if (wanted('checks') || wanted('browser')) await buildWeb(root, say);
  if (wanted('checks')) add(await runChecks(root));
  if (wanted('unit')) {
    const cluster = new Cluster(join(data, 'unit'));
    add(await runUnitTests(root, data, await cluster.start()).finally(() => cluster.stop()));
  }
  if (wanted('browser')) add(await runBrowserTests(root, data));
  for (const failure of total.failures)
    say(`FAILED ${failure.split('\n').slice(0, MOST_LINES).join('\n')}`);
  say(`${total.passed} passed, ${total.failed} failed`);
  return total.failed === 0 && total.passed > 0 ? EXIT.done : EXIT.problems;
}
