import { resolve } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { readVectors } from '../../tests/support/vectors';
import { howFarAhead } from '@/core/ask/how-far-ahead';
import type { Answer, Ask } from '@/core/ask/question';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from './hosts/node';
import { UNTIMED, type SearchModule } from './search-module';

interface Mate {
  game: GameKind;
  fen?: string;
  sfen?: string;
  n: number;
  solutions: string[];
}

const FILES = { modules: resolve('dist/engine'), thread: resolve('dist/engine-thread.mjs') };
const modules = {} as Record<GameKind, SearchModule>;
beforeAll(async () => {
  for (const kind of GAME_KINDS) modules[kind] = await loadSearch(FILES, kind, { table: 4 });
});

const MATES = readVectors<Mate>('mates.jsonl').map(({ game, n, solutions, fen, sfen }) => ({
  game,
  text: (fen ?? sfen)!,
  plies: game === 'chess' ? 2 * n - 1 : n,
  solutions,
}));

const placeOf = (kind: GameKind, text: string) => {
  const ruleset = rulesetOf(kind);
  const position = ruleset.start(text);
  return { kind, root: ruleset.searchRoot(position, []), side: ruleset.side(position) };
};
const plain = (kind: GameKind, text: string, depth: number, more = {}): Answer =>
  modules[kind].search(
    { ...placeOf(kind, text), budget: { depth }, lines: 1, fresh: true, plain: true, ...more },
    UNTIMED,
  );
const ask: Ask = async (question) => modules[question.kind].search(question, UNTIMED);

describe('a plain search', () => {
  it.each(MATES.filter(({ plies }) => plies <= 5))(
    'sees every mate as far ahead as it looks: $game, $plies plies, $text',
    ({ game, text, plies }) => {
      const { depth, lines } = plain(game, text, plies);
      const { side } = placeOf(game, text);
      expect(depth).toBe(plies);
      expect(lines[0]!.score).toEqual({ kind: 'mate', plies, winner: side });
    },
  );

  it('looks no further than it is asked to, and needs more for each ply', () => {
    for (const kind of GAME_KINDS) {
      const start = rulesetOf(kind).startText;
      const nodes = [1, 2, 3, 4].map((depth) => plain(kind, start, depth).nodes);
      for (const depth of [1, 2, 3]) expect(nodes[depth]!).toBeGreaterThan(2 * nodes[depth - 1]!);
      // at least each move, and one answer to each
      const moves = rulesetOf(kind).moves(rulesetOf(kind).start()).length;
      expect(nodes[1]!).toBeGreaterThanOrEqual(2 * moves);
    }
  });

  it('compares the moves it is given, to the same depth', () => {
    const { lines } = plain('chess', rulesetOf('chess').startText, 3, {
      only: ['a2a3', 'e2e4'],
      lines: 2,
    });
    expect(lines.map(({ moves }) => moves[0]).sort()).toEqual(['a2a3', 'e2e4']);
  });
});

describe('how far ahead', () => {
  it.each(MATES.filter(({ plies, solutions }) => plies <= 5 && solutions.length === 1))(
    'a mate lies no further than it is long: $game, $plies plies, $text',
    async ({ game, text, plies, solutions }) => {
      const effort = { nodes: 1_000_000 };
      const seen = await howFarAhead(ask, placeOf(game, text), { find: solutions[0]! }, effort);
      expect(seen.plies).not.toBeNull();
      expect(seen.plies).toBeLessThanOrEqual(plies);
    },
  );

  /** Kind, position, a better move, the error, what it loses, plies ahead. */
  it.each([
    // a queen is put where a pawn takes it
    ['chess', '4k3/8/2p5/8/8/8/3Q4/4K3 w - - 0 1', 'd2d3', 'd2d5', 60, 1],
    // a bishop goes where a pawn will fork it and the knight
    ['chess', '4k3/8/3pp3/8/3N4/8/8/2B1K3 w - - 0 1', 'c1d2', 'c1f4', 40, 3],
    // a bishop goes where the other takes it
    [
      'shogi',
      'lnsgkgsnl/1r5b1/pppppp1pp/6p2/9/2P6/PP1PPPPPP/1B5R1/LNSGKGSNL b - 1',
      '2g2f',
      '8h5e',
      30,
      1,
    ],
  ] as const)('%s, %s: %s rather than %s', async (kind, text, better, error, loss, plies) => {
    const seen = await howFarAhead(
      ask,
      placeOf(kind, text),
      { better, error, loss },
      { nodes: 1_000_000 },
    );
    expect(seen.plies).toBe(plies);
  });
});
