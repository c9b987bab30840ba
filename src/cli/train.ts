import { createReadStream } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { createInterface } from 'node:readline';
import { CHANCE_SCALE } from '@/core/review/chance';
import type { GameKind } from '@/core/game/ruleset';
import { quantised } from '@/engine/learning/network';
import { readSample } from '@/engine/learning/samples';
import { errorOf, freshNetwork, SampleSet, train } from '@/engine/learning/trainer';
import { randomSource } from '@/engine/self-play';

export interface TrainOptions {
  epochs: number;
  /** How much of the target is the search's score; the rest is the game's result. */
  trust: number;
}

/** Samples of one game stand together, so that whole stretches are held back: else the others would tell of them. */
const STRETCH = 1000;
const HELD_BACK = 20;

/** Trains a network on files of samples and writes it; one stretch in twenty is held back to measure the error. */
export async function trainNetwork(
  kind: GameKind,
  files: readonly string[],
  out: string,
  { epochs, trust }: TrainOptions,
): Promise<void> {
  const chanceScale = CHANCE_SCALE[kind];
  const trained = new SampleSet(kind, chanceScale, trust);
  const heldBack = new SampleSet(kind, chanceScale, trust);
  let count = 0;
  for (const file of files)
    for await (const line of createInterface({ input: createReadStream(file) }))
      (Math.floor(count++ / STRETCH) % HELD_BACK === 0 ? heldBack : trained).add(readSample(line));
  process.stdout.write(`${trained.size} samples, ${heldBack.size} held back\n`);
  const random = randomSource(5);
  const network = freshNetwork(kind, random);
  const plan = { epochs, batch: 4096, rate: 0.0025, chanceScale };
  const started = performance.now();
  train(network, trained, plan, random, (epoch, error) =>
    process.stdout.write(
      `epoch ${epoch}: error ${error.toFixed(5)}, held back ${errorOf(network, heldBack, chanceScale).toFixed(5)}, ${((performance.now() - started) / 1000).toFixed(0)} s\n`,
    ),
  );
  await writeFile(out, quantised(network));
}
