import { resolve } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import type { GameKind } from '@/core/game/ruleset';
import { cpScore, mateScore } from '@/core/game/score';
import { rulesetOf } from '@/core/rulesets';
import type { Answer } from '@/core/ask/question';
import type { Engine } from '../contract';
import { startExternal } from './external';

const LINES = 'option name MultiPV type spin default 1 min 1 max 10';
const CHESS = {
  white: 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1',
  black: 'rnbqkbnr/pppppppp/8/8/4P3/8/PPPP1PPP/RNBQKBNR b KQkq - 0 1',
};
const SHOGI = {
  black: 'lnsgkgsnl/1r5b1/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL b - 1',
  white: 'lnsgkgsnl/1r5b1/ppppppppp/9/9/2P6/PP1PPPPPP/1B5R1/LNSGKGSNL w - 2',
};

let open: Engine[] = [];
afterEach(() => {
  open.forEach((engine) => engine.close());
  open = [];
});

/** Asks an engine that answers as it is told. */
async function ask(
  kind: GameKind,
  position: string,
  lines: number,
  answers: readonly string[],
  options: readonly string[] = [],
): Promise<{ told: Answer[]; found: Answer }> {
  const engine = await startExternal({
    kind,
    command: [
      process.execPath,
      resolve('tests/support/fake-engine.mjs'),
      kind,
      JSON.stringify({ options, answers }),
    ],
  });
  open.push(engine);
  const ruleset = rulesetOf(kind);
  const root = ruleset.searchRoot(ruleset.start(position), []);
  const told: Answer[] = [];
  const found = await engine.search(
    { kind, root, budget: { milliseconds: 100 }, lines, fresh: true },
    { onInfo: (info) => told.push(info) },
  );
  return { told, found };
}

describe('an external engine', () => {
  it('without several lines gets on with one', async () => {
    const answers = Array.from(
      { length: 8 },
      (_, i) => `info depth ${i + 1} nodes ${100 * i} time ${i} score cp ${10 + i} pv e2e4 e7e5`,
    );
    const { told, found } = await ask('chess', CHESS.white, 2, [...answers, 'bestmove e2e4']);
    expect(told.map(({ depth }) => depth)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(found).toMatchObject({ depth: 8, nodes: 700, lines: [{ score: cpScore(17) }] });
  });

  it('keeps its whole line where it plays the first move of it, and only then', async () => {
    const info = 'info depth 1 score cp 5 pv e2e4 e7e5';
    const lineOf = async (last: string) =>
      (await ask('chess', CHESS.white, 1, [info, last])).found.lines.map(({ moves }) => moves);
    expect(await lineOf('bestmove e2e4')).toEqual([['e2e4', 'e7e5']]);
    expect(await lineOf('bestmove d2d4')).toEqual([['d2d4']]);
    expect(await lineOf('bestmove (none)')).toEqual([['e2e4', 'e7e5']]);
    expect(await lineOf('bestmove')).toEqual([['e2e4', 'e7e5']]);
  });

  it('that says nothing but a move has looked at nothing', async () => {
    const { told, found } = await ask('chess', CHESS.white, 1, ['bestmove e2e4']);
    expect(told).toEqual([]);
    expect(found).toMatchObject({ depth: 0, selectiveDepth: 0, nodes: 0 });
    expect(found.lines.map(({ moves }) => moves)).toEqual([['e2e4']]);
  });

  it('that gives fewer lines than asked for is heard all the same', async () => {
    const { told, found } = await ask(
      'chess',
      CHESS.white,
      3,
      [
        'info depth 1 multipv 1 score cp 10 pv e2e4',
        'info depth 1 multipv 2 score cp 5 pv d2d4',
        'info depth 2 multipv 1 score cp 12 pv d2d4',
        'info depth 2 multipv 2 score cp 6 pv e2e4',
        'bestmove d2d4',
      ],
      [LINES],
    );
    expect(told.map(({ depth, lines }) => [depth, lines.length])).toEqual([
      [1, 2],
      [2, 2],
    ]);
    expect(found.lines.map(({ moves }) => moves[0])).toEqual(['d2d4', 'e2e4']);
  });

  it('is told of when all lines of a depth are there', async () => {
    const { told } = await ask(
      'chess',
      CHESS.white,
      2,
      [
        'info depth 1 multipv 1 score cp 10 pv e2e4',
        'info depth 1 multipv 2 score cp 5 pv d2d4',
        'info depth 2 multipv 1 score cp 12 pv d2d4',
        'bestmove d2d4',
      ],
      [LINES],
    );
    expect(told.map(({ depth, lines }) => [depth, lines.length])).toEqual([
      [1, 2],
      [2, 1],
    ]);
  });

  it('gives bounds on the way, which are no scores', async () => {
    const { told, found } = await ask('chess', CHESS.white, 1, [
      'info depth 5 score cp 30 pv e2e4',
      'info depth 6 score cp 300 lowerbound pv e2e4',
      'info depth 6 score cp -200 upperbound pv e2e4',
      'bestmove e2e4',
    ]);
    expect(told).toHaveLength(1);
    expect(found).toMatchObject({ depth: 5, lines: [{ score: cpScore(30) }] });
  });

  it.each([
    ['chess', CHESS.white, 'cp 35', cpScore(35)],
    ['chess', CHESS.black, 'cp 35', cpScore(-35)],
    ['chess', CHESS.black, 'cp 0', cpScore(0)],
    ['chess', CHESS.white, 'mate 3', mateScore(5, 0)],
    ['chess', CHESS.white, 'mate -3', mateScore(6, 1)],
    ['chess', CHESS.black, 'mate 1', mateScore(1, 1)],
    ['chess', CHESS.black, 'mate -2', mateScore(4, 0)],
    ['shogi', SHOGI.black, 'cp 35', cpScore(35)],
    ['shogi', SHOGI.white, 'cp 35', cpScore(-35)],
    ['shogi', SHOGI.black, 'mate 5', mateScore(5, 0)],
    ['shogi', SHOGI.black, 'mate -4', mateScore(4, 1)],
    ['shogi', SHOGI.white, 'mate 7', mateScore(7, 1)],
    ['shogi', SHOGI.white, 'mate -2', mateScore(2, 0)],
  ] as const)('%s, %s: %s', async (kind, position, said, score) => {
    const ruleset = rulesetOf(kind);
    const move = ruleset.code(ruleset.moves(ruleset.start(position))[0]!);
    const { found } = await ask(kind, position, 1, [
      `info depth 9 score ${said} pv ${move}`,
      `bestmove ${move}`,
    ]);
    expect(found.lines).toEqual([{ score, moves: [move] }]);
  });

  it('that can not be started says so without telling where it is', async () => {
    const command = ['/no/such/place/engine'] as [string];
    await expect(startExternal({ kind: 'chess', command })).rejects.toThrow(
      /^the program can't be started \(ENOENT\)$/,
    );
  });

  it('that ends says so', async () => {
    const command: [string, ...string[]] = [process.execPath, '-e', 'process.exit(7)'];
    await expect(startExternal({ kind: 'chess', command })).rejects.toThrow(/has ended \(7\)/);
  });
});
