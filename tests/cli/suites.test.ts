import { resolve } from 'node:path';
import { describe, expect, it } from 'vitest';
import { readSuite } from '@/cli/suite';
import { GAME_KINDS } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { loadSearch } from '@/engine/hosts/node';
import { findQuietPosition, isQuiet } from '@/engine/learning/quiet-positions';

const SUITES = GAME_KINDS.flatMap((kind) =>
  (['tactics', 'quiet'] as const).map((name) => ({ kind, name })),
);

it.each(SUITES)(
  'the suite $kind-$name asks for moves that can be played, each position once',
  async ({ kind, name }) => {
    const ruleset = rulesetOf(kind);
    const suite = await readSuite(kind, name);
    expect(suite.length).toBeGreaterThan(30);
    expect(new Set(suite.map(({ position }) => position)).size).toBe(suite.length);
    for (const { position, best, margin } of suite) {
      const start = ruleset.start(position);
      expect(ruleset.isLegal(start, ruleset.parseCode(best)!), `${position} ${best}`).toBe(true);
      expect(margin).toBeGreaterThan(0);
      if (name === 'quiet') expect(isQuiet(ruleset, start, best), `${position} ${best}`).toBe(true);
    }
  },
);

describe('a quiet move', () => {
  it.each([
    ['chess', '4k3/8/8/3p4/4P3/8/4P3/R3K3 w - - 0 1', ['e2e3', 'a1b1'], ['e4d5', 'a1a8']],
    ['chess', '8/4P3/8/8/8/k7/8/4K3 w - - 0 1', ['e1d1'], ['e7e8q', 'e7e8n']],
    [
      'shogi',
      '4k4/9/9/4p4/4P4/9/9/9/4K4 b RG 1',
      ['R*1a', '5i5h'].slice(1),
      ['5e5d', 'R*1a', 'G*5b'],
    ],
  ] as const)(
    'of %s from %s neither takes nor promotes nor gives check',
    (kind, text, quiet, loud) => {
      const ruleset = rulesetOf(kind);
      const position = ruleset.start(text);
      for (const code of quiet) expect(isQuiet(ruleset, position, code), code).toBe(true);
      for (const code of loud) expect(isQuiet(ruleset, position, code), code).toBe(false);
    },
  );
});

it.each(GAME_KINDS)(
  'quiet positions of %s are found in games, and agreed by both engines',
  async (kind) => {
    const ruleset = rulesetOf(kind);
    const load = () => loadSearch({ modules: resolve('dist/engine') }, kind, { table: 1 });
    const engines = [await load(), await load()] as const;
    const effort = { move: 100, glance: 100, look: 2000, proof: 4000 };
    const found = Array.from({ length: 6 }, (_, seed) =>
      findQuietPosition(ruleset, engines, randomSource(seed), effort),
    ).flatMap((one) => one ?? []);
    expect(found.length).toBeGreaterThan(0);
    for (const { position, best } of found) {
      expect(isQuiet(ruleset, ruleset.start(position), best)).toBe(true);
      expect(ruleset.inCheck(ruleset.start(position))).toBe(false);
    }
  },
);
