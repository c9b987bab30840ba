import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from '@/engine/hosts/node';
import { playSamples, sampleLine } from '@/engine/learning/samples';
import { randomSource } from '@/engine/draw';
import { ENGINE_FILES } from './engine-files';
import { EXIT, usageError } from './exit';
import type { Options } from './options';

interface SelfPlayPlan {
  kind: GameKind;
  /** Where the samples go; those of an earlier run are kept. */
  file: string;
  nodes: number;
  seed: number;
  /** Seconds after which no further game is begun. */
  seconds: number;
}

/** A small table is quick to clear and enough for short searches. */
const TABLE_MEGABYTES = 4;

/** Plays games against itself and appends their quiet positions to a file; returns how many. */
async function selfPlay({ kind, file, nodes, seed, seconds }: SelfPlayPlan): Promise<number> {
  const search = await loadSearch(ENGINE_FILES, kind, { table: TABLE_MEGABYTES });
  const random = randomSource(seed);
  const out = createWriteStream(file, { flags: 'a' });
  const until = performance.now() + seconds * 1000;
  let count = 0;
  while (performance.now() < until) {
    const samples = playSamples(rulesetOf(kind), search, random, nodes);
    count += samples.length;
    if (!out.write(samples.map(sampleLine).join(''))) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
  return count;
}

/** The command behind `train` and `tune`: one process of self-play. */
export async function runSelfPlay(
  kind: string | undefined,
  file: string | undefined,
  { nodes, seed, time }: Pick<Options, 'nodes' | 'seed' | 'time'>,
): Promise<number> {
  if ((kind !== 'chess' && kind !== 'shogi') || file === undefined)
    throw usageError('./bektra self-play chess|shogi FILE [--time SECONDS] [--nodes N] [--seed N]');
  const count = await selfPlay({
    kind,
    file,
    nodes: nodes ?? 600,
    seed: seed ?? 1,
    seconds: time ?? 60,
  });
  process.stdout.write(`${count} samples in ${file}\n`);
  return EXIT.done;
}
