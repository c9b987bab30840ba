import { spawn, spawnSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomSource } from '@/engine/draw';
import { withDatabase } from '../serve/serve';
import { report } from './figures';
import { mutationsOf, type Mutation } from './mutation-sites';

const root = process.env.BEKTRA_ROOT ?? process.cwd();
/** Whose tests are to notice; what is measured rather than decided there is left out. */
const FOLDERS = ['src/core', 'src/server', 'src/engine/hosts'];
/** Tests that take minutes and decide nothing of these folders. */
const LEFT_OUT = [
  'src/engine/engine.test.ts',
  'src/engine/terms.test.ts',
  'src/engine/errors.test.ts',
];
const SAMPLE = 200;
const SEED = 2026;
const LONGEST_MS = 180_000;

type Mutant = Mutation & { file: string };
type Outcome = 'noticed' | 'survived';

/** Small changes of the program, one at a time: how many of them some test notices. What was found before is not tried again. */
export async function benchMutants(count = SAMPLE): Promise<void> {
  const sample = drawSample(count);
  const kept = join(root, '.data-test', 'mutants.json');
  const known: Record<string, Outcome> = existsSync(kept)
    ? (JSON.parse(readFileSync(kept, 'utf8')) as Record<string, Outcome>)
    : {};
  await withDatabase(async (url) => {
    const copy = copyOfProgram();
    const env = {
      ...process.env,
      BEKTRA_ROOT: copy,
      BEKTRA_LOG: 'silent',
      // tests make databases of their own beside it
      BEKTRA_DATABASE_URL: new URL('/postgres', url).href,
    };
    try {
      for (const mutant of sample) {
        const name = nameOf(mutant);
        known[name] ??= await tryOut(copy, mutant, env);
        writeFileSync(kept, JSON.stringify(known, null, 1));
      }
    } finally {
      rmSync(copy, { recursive: true });
    }
  });
  const survivors = sample.map(nameOf).filter((name) => known[name] === 'survived');
  report(
    `${sample.length} small changes, noticed by a test`,
    `${((100 * (sample.length - survivors.length)) / sample.length).toFixed(0)} %`,
  );
  for (const survivor of survivors) report('  not noticed', survivor);
}

/** The same ones each time, as long as the program is the same; each place as likely as any other. */
function drawSample(count: number): Mutant[] {
  const { stdout } = spawnSync('git', ['ls-files', ...FOLDERS], { cwd: root, encoding: 'utf8' });
  const files = stdout.split('\n').filter((file) => /(?<!\.test|\.worker)\.ts$/.test(file));
  const all = files.flatMap((file) =>
    mutationsOf(file, readFileSync(join(root, file), 'utf8')).map((found) => ({ ...found, file })),
  );
  const random = randomSource(SEED);
  return all
    .map((mutant) => ({ mutant, draw: random() }))
    .sort((a, b) => a.draw - b.draw)
    .slice(0, count)
    .map(({ mutant }) => mutant);
}

const nameOf = ({ file, line, from, was, text }: Mutant): string =>
  `${file}:${line} (${from}) ${was.slice(0, 60)} -> ${text.slice(0, 60)}`.replace(/\s+/g, ' ');

function copyOfProgram(): string {
  const copy = mkdtempSync(join(tmpdir(), 'bektra-mutants-'));
  for (const part of ['src', 'tests', 'demo', 'drizzle', 'dist', 'messages', 'docs', 'scripts'])
    cpSync(join(root, part), join(copy, part), { recursive: true });
  for (const part of [
    'package.json',
    'tsconfig.json',
    'vitest.config.ts',
    'bektra',
    'settings.env',
  ])
    cpSync(join(root, part), join(copy, part));
  symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));
  return copy;
}

async function tryOut(
  copy: string,
  { file, from, length, text }: Mutant,
  env: NodeJS.ProcessEnv,
): Promise<Outcome> {
  const path = join(copy, file);
  const source = readFileSync(path, 'utf8');
  writeFileSync(path, source.slice(0, from) + text + source.slice(from + length));
  try {
    // tests that start processes run the bundle; what does not bundle is noticed by the compiler
    if ((await ends('scripts/bundle.mjs', [], copy, env)) !== 0) return 'noticed';
    // what core decides is to be noticed by tests of its own kind, which are quick; of the rest, by those with a database
    const slow = file.startsWith('src/core') ? [...LEFT_OUT, 'tests/**', 'demo/**'] : LEFT_OUT;
    const tests = ['related', file, '--run', '--bail', '1'];
    const without = slow.flatMap((test) => ['--exclude', test]);
    const vitest = join(copy, 'node_modules/vitest/vitest.mjs');
    const code = await ends(vitest, [...tests, ...without, '--passWithNoTests'], copy, env);
    return code === 0 ? 'survived' : 'noticed';
  } finally {
    writeFileSync(path, source);
  }
}

/** The exit code of a program; one that does not end in time has noticed something. */
function ends(
  script: string,
  args: readonly string[],
  cwd: string,
  env: NodeJS.ProcessEnv,
): Promise<number> {
  return new Promise((resolve) => {
    // a group of its own, so that what it has started ends with it
    const child = spawn(process.execPath, [script, ...args], {
      cwd,
      env,
      stdio: 'ignore',
      detached: true,
    });
    const timer = setTimeout(() => process.kill(-child.pid!, 'SIGKILL'), LONGEST_MS);
    child.on('exit', (code) => {
      clearTimeout(timer);
      resolve(code ?? 1);
    });
  });
}
