import { spawn } from 'node:child_process';
import { cp, mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { loadSearch } from '@/engine/hosts/node';
import { playSamples, readSample, sampleLine, targetOf } from '@/engine/learning/samples';

const checkouts: string[] = [];
afterAll(() => Promise.all(checkouts.map((root) => rm(root, { recursive: true, force: true }))));

/** A checkout with weights of its own, which learning may replace. */
async function checkout(): Promise<string> {
  const root = await mkdtemp(join(tmpdir(), 'bektra-learning-'));
  checkouts.push(root);
  await symlink(resolve('dist'), join(root, 'dist'));
  await cp(resolve('src/engine/weights'), join(root, 'src/engine/weights'), { recursive: true });
  return root;
}

function bektra(root: string, args: string[]): Promise<{ code: number | null; out: string }> {
  return new Promise((done) => {
    const child = spawn(process.execPath, [resolve('dist/cli.mjs'), ...args], {
      cwd: root,
      env: { ...process.env, BEKTRA_ROOT: root },
    });
    let out = '';
    const hear = (piece: Buffer): void => void (out += piece.toString());
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('close', (code) => done({ code, out }));
  });
}

/** Samples as self-play leaves them when it is killed: the last line is cut short. */
async function writeSamples(folder: string, kind: GameKind, count: number): Promise<void> {
  const search = await loadSearch({ modules: resolve('dist/engine') }, kind, { table: 1 });
  const random = randomSource(3);
  let lines: string[] = [];
  while (lines.length < count)
    lines = lines.concat(playSamples(rulesetOf(kind), search, random, 40).map(sampleLine));
  await mkdir(folder, { recursive: true });
  await writeFile(join(folder, '1.tsv'), lines.join('').slice(0, -3));
}

describe('a line of samples', () => {
  it.each([0.5, null])(
    'of result %s is read as it was written, not where it was cut short',
    (result) => {
      const sample = { position: rulesetOf('shogi').startText, score: -31, result };
      const line = sampleLine(sample).trimEnd();
      expect(readSample(line)).toEqual(sample);
      for (let length = 0; length < line.lastIndexOf('\t') + 1; length++)
        expect(readSample(line.slice(0, length))).toBeNull();
      expect(readSample(line.slice(0, -4) + line)).toBeNull();
    },
  );
});

it('teaches the value of the search and how the game ended, by as much as the value is trusted', () => {
  const sample = { position: rulesetOf('chess').startText, score: 200, result: 0 };
  const seen = 1 / (1 + Math.exp(-1));
  expect(targetOf(sample, 0.75, 200)).toBeCloseTo(0.75 * seen, 12);
  expect(targetOf({ ...sample, result: 1 }, 0.75, 200)).toBeCloseTo(0.75 * seen + 0.25, 12);
  expect(targetOf({ ...sample, result: null }, 0.75, 200)).toBeCloseTo(seen, 12);
});

it.each(GAME_KINDS)(
  'games of %s leave for asides now and then, and keep only quiet positions that are not decided',
  async (kind) => {
    const ruleset = rulesetOf(kind);
    const search = await loadSearch({ modules: resolve('dist/engine') }, kind, { table: 1 });
    const random = randomSource(11);
    const samples = Array.from({ length: 6 }, () =>
      playSamples(ruleset, search, random, 40),
    ).flat();
    const asides = samples.filter(({ result }) => result === null);
    const share = asides.length / samples.length;
    expect(share).toBeGreaterThan(0.08);
    expect(share).toBeLessThan(0.35);
    for (const { position, score } of samples) {
      expect(ruleset.inCheck(ruleset.start(position))).toBe(false);
      expect(Math.abs(score)).toBeLessThanOrEqual(2500);
    }
  },
);

describe.each(GAME_KINDS)('learning %s from games against itself', (kind) => {
  let root: string;
  let samples: string;
  const weights = (name: string): string => join(root, `src/engine/weights/${kind}-${name}`);
  beforeAll(async () => {
    root = await checkout();
    samples = join(root, `.data-train/${kind}`);
    await writeSamples(samples, kind, 2500);
  });

  it.each(['train', 'tune'])(
    'keeps the weights where there is too little to %s',
    async (command) => {
      const empty = await checkout();
      const { code, out } = await bektra(empty, [command, kind, '--time', '0']);
      expect(code).toBe(3);
      expect(out).toContain('0 samples are too few to learn from');
      for (const name of await readdir(join(empty, 'src/engine/weights'))) {
        const kept = await readFile(join(empty, 'src/engine/weights', name));
        expect(kept.equals(await readFile(resolve('src/engine/weights', name)))).toBe(true);
      }
    },
  );

  it('goes on from the network there is unless told otherwise, and writes to where it is told', async () => {
    const other = join(root, 'other.bin');
    const start = async (...options: string[]): Promise<number> => {
      const once = ['train', kind, '--time', '0', '--epochs', '1', '--rate', '0.0021'];
      const { code, out } = await bektra(root, [...once, '--out', other, ...options]);
      expect(code).toBe(0);
      return Number(/before: held back (\d\.\d+)/.exec(out)![1]);
    };
    const own = await readFile(weights('network.bin'));
    const further = await start();
    const written = await readFile(other);
    expect(written.length).toBe(own.length);
    expect(written.equals(own)).toBe(false);
    expect(further).toBeLessThan((await start('--fresh')) / 3);
    expect((await readFile(weights('network.bin'))).equals(own)).toBe(true);
  });

  it('trains a network that errs less with every epoch, though the last line was cut short', async () => {
    const before = await readFile(weights('network.bin'));
    const anew = ['train', kind, '--time', '0', '--epochs', '4', '--fresh'];
    const { code, out } = await bektra(root, anew);
    expect(code).toBe(0);
    expect(out).not.toContain('NaN');
    const trained = [...out.matchAll(/epoch \d+: error (\d\.\d+)/g)].map(([, error]) =>
      Number(error),
    );
    expect(trained).toHaveLength(4);
    expect(trained.at(-1)).toBeLessThan(trained[0]!);
    const after = await readFile(weights('network.bin'));
    expect(after.length).toBe(before.length);
    expect(after.equals(before)).toBe(false);
  });

  it('tunes the terms on the same samples', async () => {
    const read = async (): Promise<Record<string, unknown[]>> =>
      JSON.parse(await readFile(weights('terms.json'), 'utf8')) as Record<string, unknown[]>;
    const before = await read();
    const { code, out } = await bektra(root, ['tune', kind, '--time', '0', '--epochs', '2']);
    expect(code).toBe(0);
    const [old, tuned] = [...out.matchAll(/: error (\d\.\d+)/g)].map(([, error]) => Number(error));
    expect(tuned).toBeLessThan(old!);
    const after = await read();
    expect(after).not.toEqual(before);
    for (const name of Object.keys(before)) expect(after[name]).toHaveLength(before[name]!.length);
  });

  it('adds games of its own to the samples that it has', async () => {
    const given = await readFile(join(samples, '1.tsv'), 'utf8');
    const { out } = await bektra(root, [
      ...['tune', kind, '--time', '1', '--nodes', '40', '--seed', '70', '--epochs', '1'],
    ]);
    expect(out).toContain('self-play for 1 s');
    expect(await readFile(join(samples, '1.tsv'), 'utf8')).toBe(given);
    const played = (await readFile(join(samples, '70.tsv'), 'utf8')).trim().split('\n');
    for (const line of played) expect(readSample(line)).not.toBeNull();
  });
});

describe('tuning the margins of the search', () => {
  it('says what has to be built first', async () => {
    const root = await mkdtemp(join(tmpdir(), 'bektra-margins-'));
    checkouts.push(root);
    const { code, out } = await bektra(root, ['margins', 'chess', join(root, 'margins.json')]);
    expect(code).toBe(1);
    expect(out).toContain('node scripts/build-engine.mjs tuning');
    expect(await readdir(root)).toEqual([]);
  });

  it.each([
    ['of shogi', '{"kind":"shogi","pairs":1,"from":{},"values":{}}', 'is of shogi.'],
    ['that is none of its own', '{"pairs":-1}', 'is none that ./bektra margins has written.'],
    ['cut short', '{"kind":"che', 'is none that ./bektra margins has written.'],
  ])('leaves a file alone %s, and says so', async (_, text, said) => {
    const root = await mkdtemp(join(tmpdir(), 'bektra-margins-'));
    checkouts.push(root);
    const file = join(root, 'margins.json');
    await writeFile(file, text);
    const { code, out } = await bektra(root, ['margins', 'chess', file]);
    expect(code).toBe(1);
    expect(out).toContain(`${file} ${said}`);
    expect(await readFile(file, 'utf8')).toBe(text);
  });

  it.each([[[]], [['chess']], [['go', 'FILE']]])(
    'says how it is asked for: %j is not enough',
    async (args: string[]) => {
      const { code, out } = await bektra(resolve('.'), ['margins', ...args]);
      expect(code).toBe(2);
      expect(out).toContain('./bektra margins chess|shogi FILE');
    },
  );
});
