import { resolve } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Move } from '@/core/game/move';
import { winFor } from '@/core/game/result';
import { GAME_KINDS, type Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from './draw';
import { errorsIn, gameAt, gameWithRandomMoves, lossOf, type Errors } from './errors';
import { loadSearch } from './hosts/node';
import { playGame } from './self-play';

/** Games differ much in how hard they get. */
const GAMES = 8;
/** Where rates of two levels are compared, each with its own games. */
const MANY_GAMES = 24;
const MATCH = 24;
/** Points of chance that an error loses, and fewer than which it seemed to lose where it was overlooked. */
const ERROR = 12;
const SEEMED = 6;

const shallow = ({ seenAt, errors }: Errors): number => (seenAt.get(1) ?? 0) / errors;

describe.each(GAME_KINDS)('made-up players of %s', async (kind) => {
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
  }, 120_000);

  it('err in tactics: most errors lose material or the king, which few other moves do', () => {
    const { moves, errors, costly } = weak;
    expect(errors).toBeGreaterThan(15);
    expect(costly.errors / errors).toBeGreaterThan(0.4);
    expect(costly.errors / errors).toBeGreaterThan((2.5 * costly.others) / (moves - errors));
  });

  it('do not err where the reply is plain to see, as a move at random does', () => {
    const atRandom = errorsOf((random) => gameWithRandomMoves(ruleset, search, 0.3, random));
    expect(shallow(weak)).toBeLessThan(0.15);
    expect(shallow(atRandom)).toBeGreaterThan(0.4);
  }, 120_000);

  it('err where they do not look far enough, and less when they look further', () => {
    /** The errors at a level, and how many of them seemed as good as other moves to the player. */
    const overlookedAt = (nodes: number) => {
      const count = { moves: 0, errors: 0, overlooked: 0 };
      for (let game = 0; game < MANY_GAMES; game++) {
        const moves = gameAt(ruleset, search, { nodes, temperature: 28 }, randomSource(game));
        let position = ruleset.start();
        for (const [ply, move] of moves.slice(0, 90).entries()) {
          const before = position;
          const points = (request: Parameters<typeof lossOf>[4]): number =>
            lossOf(ruleset, search, before, move, request).points;
          position = ruleset.play(before, move);
          if (ply < 16) continue;
          count.moves++;
          if (points({ budget: { nodes: 8000 } }) < ERROR) continue;
          count.errors++;
          if (points({ budget: { nodes }, lines: 5 }) < SEEMED) count.overlooked++;
        }
      }
      return count;
    };
    const [few, many] = [overlookedAt(150), overlookedAt(3000)];
    expect(few.errors).toBeGreaterThan(0);
    expect(few.overlooked / few.errors).toBeGreaterThan(0.85);
    expect(many.errors / many.moves).toBeLessThan((0.6 * few.errors) / few.moves);
  }, 120_000);

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
