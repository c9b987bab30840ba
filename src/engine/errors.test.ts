import { resolve } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Move } from '@/core/game/move';
import { winFor } from '@/core/game/result';
import type { Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from './draw';
import { errorsIn, gameAt, gameWithRandomMoves, type Errors } from './errors';
import { loadSearch } from './hosts/node';
import { playGame } from './self-play';

const GAMES = 4;
const MATCH = 24;

const shallow = ({ seenAt, errors }: Errors): number => (seenAt.get(1) ?? 0) / errors;

describe.each(['chess', 'shogi'] as const)('made-up players of %s', async (kind) => {
  const ruleset = rulesetOf(kind);
  const search = await loadSearch({ modules: resolve('dist/engine') }, kind, { table: 4 });
  const errorsOf = (play: (random: () => number) => Move[]): Errors =>
    errorsIn(
      ruleset,
      search,
      Array.from({ length: GAMES }, (_, game) => play(randomSource(game))),
    );
  const errorsAt = (nodes: number): Errors =>
    errorsOf((random) => gameAt(ruleset, search, { nodes, temperature: 28 }, random));
  let weak: Errors;
  beforeAll(() => {
    weak = errorsAt(150);
  }, 60_000);

  it('err in tactics: most errors lose material or the king, which few other moves do', () => {
    const { moves, errors, costly } = weak;
    expect(errors).toBeGreaterThan(15);
    expect(costly.errors / errors).toBeGreaterThan(0.4);
    expect(costly.errors / errors).toBeGreaterThan((2.5 * costly.others) / (moves - errors));
  });

  it('do not err where the reply is plain to see, as a move at random does', () => {
    const atRandom = errorsOf((random) => gameWithRandomMoves(ruleset, search, 0.15, random));
    expect(shallow(weak)).toBeLessThan(0.15);
    expect(shallow(atRandom)).toBeGreaterThan(0.4);
  });

  it('win more of their games when they look further', () => {
    let points = 0;
    for (let game = 0; game < MATCH; game++) {
      const strong = (game % 2) as Side;
      const { result } = playGame(ruleset, search, {
        start: ruleset.startText,
        opening: [],
        levelAt: (side) => ({ nodes: side === strong ? 3000 : 150, temperature: 28 }),
        random: randomSource(100 + game),
      });
      points += result === winFor(strong) ? 1 : result === '1/2-1/2' ? 0.5 : 0;
    }
    expect(points / MATCH).toBeGreaterThan(0.75);
  });
});
