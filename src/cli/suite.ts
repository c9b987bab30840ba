import { appendFile, readFile } from 'node:fs/promises';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch, searchOf } from '@/engine/hosts/node';
import { findQuietPosition } from '@/engine/learning/quiet-positions';
import { findTactic } from '@/engine/learning/tactics';
import type { SuitePosition } from '@/engine/learning/suite-position';
import { randomSource } from '@/engine/draw';
import { ENGINE_FILES } from './engine-files';
import { EXIT, usageError } from './exit';

/** Tactics win material or mate; the best moves of quiet positions do neither. */
export type SuiteName = 'tactics' | 'quiet';

const root = process.env.BEKTRA_ROOT ?? process.cwd();

const suiteFile = (kind: GameKind, name: SuiteName): string =>
  `${root}/tests/suites/${kind}-${name}.tsv`;

/** The engine of before the networks were trained further, with the search of today: quiet positions are agreed with it. */
export const earlierEngine = (kind: GameKind): string =>
  `${root}/engines/${kind}-first-network.wasm`;

const suiteLine = ({ position, best, margin }: SuitePosition): string =>
  `${position}\t${best}\t${margin}\n`;

/** The positions of a suite; none where it has not been made. */
export async function readSuite(kind: GameKind, name: SuiteName): Promise<SuitePosition[]> {
  const text = await readFile(suiteFile(kind, name), 'utf8').catch(() => '');
  return text
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => {
      const [position, best, margin] = line.split('\t') as [string, string, string];
      return { position, best, margin: Number(margin) };
    });
}

const TABLE_MEGABYTES = 64;

/** Looks for positions in games of its own until there are as many as wanted, and adds them to the suite. */
export async function makeSuite(
  kind: string | undefined,
  name: SuiteName,
  wanted: number,
  seed: number,
): Promise<number> {
  if (kind !== 'chess' && kind !== 'shogi')
    throw usageError('./bektra suite chess|shogi [--quiet] [--games N] [--seed N]');
  const search = await loadSearch(ENGINE_FILES, kind, { table: TABLE_MEGABYTES });
  const earlier = await searchOf(kind, earlierEngine(kind), TABLE_MEGABYTES);
  const find = (random: () => number): SuitePosition | null =>
    name === 'quiet'
      ? findQuietPosition(rulesetOf(kind), [search, earlier], random)
      : findTactic(rulesetOf(kind), search, random);
  const known = new Set((await readSuite(kind, name)).map(({ position }) => position));
  for (let game = 0; known.size < wanted; game++) {
    const found = find(randomSource(seed * 1_000_003 + game));
    if (!found || known.has(found.position)) continue;
    known.add(found.position);
    await appendFile(suiteFile(kind, name), suiteLine(found));
    process.stdout.write(`${known.size} of ${wanted}\n`);
  }
  return EXIT.done;
}
