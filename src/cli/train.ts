import { spawn } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { createInterface } from 'node:readline';
import type { GameKind } from '@/core/game/ruleset';
import { CHANCE_SCALE } from '@/core/review/chance';
import { loadSearch } from '@/engine/hosts/node';
import { dequantised, quantised } from '@/engine/learning/network';
import { readSample, type Sample } from '@/engine/learning/samples';
import { freshNetwork, SampleSet, Trainer } from '@/engine/learning/trainer';
import { rowOf, tune, tuningError } from '@/engine/learning/tuner';
import { randomSource } from '@/engine/draw';
import type { TermWeights } from '@/engine/terms';
import { ENGINE_FILES } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import type { Options } from './options';

const root = process.env.BEKTRA_ROOT ?? process.cwd();
const weightsFile = (kind: GameKind, name: string): string =>
  `${root}/src/engine/weights/${kind}-${name}`;
const samplesFolder = (kind: GameKind): string => `${root}/.data-train/${kind}`;

/** `time`: seconds of self-play to add to the samples; 0: none. */
export type LearningOptions = Pick<
  Options,
  'time' | 'nodes' | 'epochs' | 'rate' | 'decay' | 'trust' | 'seed' | 'fresh' | 'out'
>;

/** Samples of one game stand together, so that whole stretches are held back: else the others would tell of them. */
const STRETCH = 1000;
const HELD_BACK = 20;
/** One stretch held back, and as much to learn from. */
const LEAST_SAMPLES = 2 * STRETCH;
/** How much of a target is the search's score; the rest is the game's result. */
const TRUST = 0.85;
/** The step of the first epoch. */
const RATE = 0.0025;

const kindOf = (text: string | undefined, command: string): GameKind => {
  if (text === 'chess' || text === 'shogi') return text;
  throw usageError(
    `./bektra ${command} chess|shogi [--time SECONDS] [--nodes N] [--epochs N] [--seed N]`,
  );
};

const say = (line: string): void => void process.stdout.write(`${line}\n`);

/** Plays games on every core for some seconds and adds their positions to the samples. */
async function addSamples(kind: GameKind, { time, nodes, seed }: LearningOptions): Promise<void> {
  const seconds = time ?? 600;
  await mkdir(samplesFolder(kind), { recursive: true });
  if (seconds === 0) return;
  say(`self-play for ${seconds} s on ${availableParallelism()} cores …`);
  const first = seed ?? Date.now() % 1_000_000;
  const players = Array.from({ length: availableParallelism() }, (_, core) => {
    const file = `${samplesFolder(kind)}/${first + core}.tsv`;
    const asked = ['self-play', kind, file, '--time', String(seconds)];
    return new Promise<void>((resolve, reject) => {
      spawn(
        process.execPath,
        [
          process.argv[1]!,
          ...asked,
          '--nodes',
          String(nodes ?? 600),
          '--seed',
          String(first + core),
        ],
        { stdio: 'inherit' },
      ).on('exit', (code) =>
        code === 0 ? resolve() : reject(new CommandError(`self-play ended with ${code}`)),
      );
    });
  });
  await Promise.all(players);
}

/** Positions met so far, told apart by 53 bits of a hash: among ten millions, a mix-up is rarer than one in a hundred. */
class PositionsSeen {
  /** A set holds no more than some sixteen millions. */
  private readonly sets = Array.from({ length: 16 }, () => new Set<number>());

  /** Whether a FEN or SFEN is met for the first time, by its board, side, and castling rights or hands alone. */
  add(position: string): boolean {
    const end = position.split(' ', 3).join(' ').length;
    let [low, high] = [0x811c9dc5, 0x9dc5811c];
    for (let i = 0; i < end; i++) {
      const code = position.charCodeAt(i);
      low = Math.imul(low ^ code, 0x01000193);
      high = Math.imul(high ^ code, 0x85ebca6b);
      high ^= high >>> 15;
    }
    const set = this.sets[low & 15]!;
    const before = set.size;
    set.add((high >>> 0) * 0x200000 + (low >>> 11));
    return set.size > before;
  }
}

/**
 * All samples, each position once, with whether it is held back to measure the error.
 * @throws CommandError behind the last where they are too few to learn from
 */
async function* samplesOf(kind: GameKind): AsyncGenerator<{ sample: Sample; heldBack: boolean }> {
  let count = 0;
  const seen = new PositionsSeen();
  for (const file of (await readdir(samplesFolder(kind))).sort())
    for await (const line of createInterface({
      input: createReadStream(`${samplesFolder(kind)}/${file}`),
    })) {
      const sample = readSample(line);
      if (sample && seen.add(sample.position))
        yield { sample, heldBack: Math.floor(count++ / STRETCH) % HELD_BACK === 0 };
    }
  if (count < LEAST_SAMPLES)
    throw new CommandError(
      `${count} samples are too few to learn from: at least ${LEAST_SAMPLES}. Play for longer (--time SECONDS).`,
    );
}

/** Plays games against itself, trains the network on them, from the one in place or afresh, and puts it in place; the next build takes it up. */
export async function trainNetwork(
  text: string | undefined,
  options: LearningOptions,
): Promise<number> {
  const kind = kindOf(text, 'train');
  await addSamples(kind, options);
  const chanceScale = CHANCE_SCALE[kind];
  const trained = new SampleSet(kind, chanceScale, options.trust ?? TRUST);
  const heldBack = new SampleSet(kind, chanceScale, options.trust ?? TRUST);
  for await (const { sample, heldBack: isHeldBack } of samplesOf(kind))
    (isHeldBack ? heldBack : trained).add(sample);
  say(`${trained.size} samples, ${heldBack.size} held back`);
  const random = randomSource(5);
  const arithmetic = new Uint8Array(await readFile(`${ENGINE_FILES.modules}/training.wasm`));
  const file = weightsFile(kind, 'network.bin');
  const start = options.fresh
    ? freshNetwork(kind, random)
    : dequantised(kind, new Uint8Array(await readFile(file)));
  const trainer = new Trainer(await WebAssembly.compile(arithmetic), start, chanceScale);
  say(`before: held back ${trainer.errorOf(heldBack).toFixed(5)}`);
  const started = performance.now();
  trainer.train(
    trained,
    {
      epochs: options.epochs ?? 10,
      batch: 4096,
      rate: options.rate ?? RATE,
      decay: options.decay ?? 0,
    },
    random,
    (epoch, error) =>
      say(
        `epoch ${epoch}: error ${error.toFixed(5)}, held back ${trainer.errorOf(heldBack).toFixed(5)}, ${((performance.now() - started) / 1000).toFixed(0)} s`,
      ),
  );
  const out = options.out ?? file;
  await writeFile(out, quantised(trainer.network));
  say(`written to ${out}`);
  return EXIT.done;
}

/** Tunes the weights of the readable evaluation on the samples and puts them in place. */
export async function tuneTerms(
  text: string | undefined,
  options: LearningOptions,
): Promise<number> {
  const kind = kindOf(text, 'tune');
  await addSamples(kind, options);
  const chanceScale = CHANCE_SCALE[kind];
  const search = await loadSearch(ENGINE_FILES, kind, { table: 1 });
  const rows: Record<'trained' | 'heldBack', ReturnType<typeof rowOf>[]> = {
    trained: [],
    heldBack: [],
  };
  for await (const { sample, heldBack } of samplesOf(kind))
    rows[heldBack ? 'heldBack' : 'trained'].push(rowOf(search, sample, TRUST, chanceScale));
  const file = weightsFile(kind, 'terms.json');
  const before = JSON.parse(await readFile(file, 'utf8')) as TermWeights;
  const plan = { epochs: options.epochs ?? 12, batch: 2048, rate: 1.5, chanceScale };
  const after = tune(kind, rows.trained, before, plan, randomSource(1));
  for (const [name, weights] of [
    ['before', before],
    ['after', after],
  ] as const)
    say(
      `${name}: error ${tuningError(kind, rows.trained, weights, chanceScale).toFixed(5)}, held back ${tuningError(kind, rows.heldBack, weights, chanceScale).toFixed(5)}`,
    );
  await writeFile(file, weightsText(after));
  say(`written to ${file}`);
  return EXIT.done;
}

/** One family of terms a line. */
const weightsText = (weights: TermWeights): string =>
  `{\n${Object.entries(weights)
    .map(([name, values]) => `  ${JSON.stringify(name)}: ${JSON.stringify(values)}`)
    .join(',\n')}\n}\n`;
