import { appendFile, readFile } from 'node:fs/promises';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from '@/engine/hosts/node';
import { findTactic, type Tactic } from '@/engine/learning/tactics';
import { randomSource } from '@/engine/draw';
import { ENGINE_FILES } from './engine-files';
import { EXIT, usageError } from './exit';

const root = process.env.BEKTRA_ROOT ?? process.cwd();

export const suiteFile = (kind: GameKind): string => `${root}/tests/suites/${kind}-tactics.tsv`;

export const tacticLine = ({ position, best, margin }: Tactic): string =>
  `${position}\t${best}\t${margin}\n`;

export async function readSuite(kind: GameKind): Promise<Tactic[]> {
  const text = await readFile(suiteFile(kind), 'utf8').catch(() => '');
  return text
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => {
      const [position, best, margin] = line.split('\t') as [string, string, string];
      return { position, best, margin: Number(margin) };
    });
}

/** Looks for tactical positions in games of its own until there are as many as wanted, and adds them to the suite. */
export async function makeSuite(
  kind: string | undefined,
  wanted: number,
  seed: number,
): Promise<number> {
  if (kind !== 'chess' && kind !== 'shogi')
    throw usageError('./bektra suite chess|shogi [--games N] [--seed N]');
  const search = await loadSearch(ENGINE_FILES, kind, { table: 64 });
  const known = new Set((await readSuite(kind)).map(({ position }) => position));
  for (let game = 0; known.size < wanted; game++) {
    const tactic = findTactic(rulesetOf(kind), search, randomSource(seed * 1_000_003 + game));
    if (!tactic || known.has(tactic.position)) continue;
    known.add(tactic.position);
    await appendFile(suiteFile(kind), tacticLine(tactic));
    process.stdout.write(`${known.size} of ${wanted}\n`);
  }
  return EXIT.done;
}
