import { resolve } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { GameKind } from '@/core/game/ruleset';
import { chanceOf } from '@/core/review/chance';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from './draw';
import type { SearchRequest } from './contract';
import { loadSearch } from './hosts/node';
import type { SearchHost, SearchModule } from './search-module';
import { playGame } from './self-play';

const KINDS = ['chess', 'shogi'] as const;
const HOST: SearchHost = { shouldStop: () => false, now: () => 0 };
const GAMES = 4;
const TEMPERATURE = 28;
/** Points of chance that an error loses, and fewer than which it seemed to lose where it was overlooked. */
const ERROR = 12;
const SEEMED = 6;

const search = {} as Record<GameKind, SearchModule>;
beforeAll(async () => {
  for (const kind of KINDS)
    search[kind] = await loadSearch({ modules: resolve('dist/engine') }, kind, { table: 4 });
});

/** Points of chance that a move loses against the best line, as a search sees both. */
function loss(
  kind: GameKind,
  position: string,
  code: string,
  request: Partial<SearchRequest>,
): number {
  const ruleset = rulesetOf(kind);
  const root = ruleset.searchRoot(ruleset.start(position), []);
  const side = ruleset.side(ruleset.start(position));
  const linesOf = (only?: string[]) =>
    search[kind].search({ kind, root, limits: {}, lines: 1, fresh: true, only, ...request }, HOST)
      .lines;
  const lines = linesOf();
  const line = lines.find(({ moves }) => moves[0] === code) ?? linesOf([code])[0]!;
  return chanceOf(kind, lines[0]!.score, side) - chanceOf(kind, line.score, side);
}

/** The errors of made-up players, among how many moves, and how many of them seemed as good as others to the player. */
function errorsAt(kind: GameKind, nodes: number) {
  const ruleset = rulesetOf(kind);
  const count = { moves: 0, errors: 0, overlooked: 0 };
  for (let game = 0; game < GAMES; game++) {
    const { moves } = playGame(ruleset, search[kind], {
      start: ruleset.startText,
      opening: [],
      levelAt: () => ({ nodes, temperature: TEMPERATURE }),
      random: randomSource(game),
    });
    let position = ruleset.start();
    for (const [ply, { move }] of moves.slice(0, 90).entries()) {
      const [text, code] = [ruleset.write(position), ruleset.code(move)];
      position = ruleset.play(position, move);
      if (ply < 16) continue;
      count.moves++;
      if (loss(kind, text, code, { limits: { nodes: 8000 } }) < ERROR) continue;
      count.errors++;
      if (loss(kind, text, code, { limits: { nodes }, lines: 5 }) < SEEMED) count.overlooked++;
    }
  }
  return count;
}

describe('made-up players', () => {
  it.each(KINDS)(
    'err where they do not look far enough, and less when they look further: %s',
    (kind) => {
      const weak = errorsAt(kind, 150);
      const strong = errorsAt(kind, 3000);
      expect(weak.errors).toBeGreaterThan(0);
      expect(weak.overlooked / weak.errors).toBeGreaterThan(0.85);
      expect(strong.errors / strong.moves).toBeLessThan((0.75 * weak.errors) / weak.moves);
    },
  );
});
