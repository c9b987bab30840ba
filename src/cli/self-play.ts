import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from '@/engine/hosts/node';
import { playSamples, sampleLine } from '@/engine/learning/samples';
import { randomSource } from '@/engine/self-play';
import { ENGINE_FILES } from './engine-files';

export interface SelfPlayPlan {
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
export async function selfPlay({
  kind,
  file,
  nodes,
  seed,
  seconds,
}: SelfPlayPlan): Promise<number> {
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
