import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Move } from '../game/move';
import { GAME_KINDS, type GameKind, type Side } from '../game/ruleset';
import type { Result } from '../game/result';
import { nodeOf, nodesInOrder, ROOT, TreeBuilder, type GameTree } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { expectations, type Reply } from './expectation';
import { linesOfGames } from './from-games';
import { commonPlies, joinedLines, linesOf } from './lines';
import { outlineOf } from './outline';
import { parting, preparationOf, sizeOf } from './preparation';

const chess = rulesetOf('chess');

const movesOf = (kind: GameKind, line: string): Move[] =>
  line.split(' ').map((code) => rulesetOf(kind).parseCode(code)!);

/** A sheet of lines, those that begin alike as one. */
function treeOf(kind: GameKind, lines: readonly (readonly Move[])[]): GameTree {
  const tree = new TreeBuilder(kind, rulesetOf(kind).startText);
  for (const line of lines) {
    let node = ROOT;
    for (const move of line) {
      const known = tree.node(node).children.find((child) => tree.node(child).move === move);
      node = known ?? tree.add(node, move);
    }
  }
  return tree.build();
}

const prepared = (side: Side, ...lines: string[]) =>
  preparationOf(chess, side, [
    {
      id: 7,
      tree: treeOf(
        'chess',
        lines.map((line) => movesOf('chess', line)),
      ),
    },
  ]);

/** Lines that branch and come together often: of each position one of the first three moves. */
const randomLines = (kind: GameKind) =>
  fc.array(fc.array(fc.nat(2), { maxLength: 9 }), { minLength: 1, maxLength: 8 }).map((all) =>
    all.map((choices) => {
      const ruleset = rulesetOf(kind);
      let position = ruleset.start();
      return choices.map((choice) => {
        const moves = ruleset.moves(position);
        const move = moves[choice % moves.length]!;
        position = ruleset.play(position, move);
        return move;
      });
    }),
  );

describe('a game beside a preparation', () => {
  const mine = prepared(0, 'd2d4 g8f6 c2c4 e7e6', 'd2d4 d7d5 c2c4', 'c2c4 g8f6 d2d4 g7g6 b1c3');
  const left = (line: string) =>
    parting(mine, chess.startText, line === '' ? [] : movesOf('chess', line));
  const codes = (line: string) => left(line)!.prepared.map((move) => chess.code(move));

  it('is left by its player, by the opponent, or at the end of a line', () => {
    expect(left('d2d4 g8f6 g1f3')).toMatchObject({ ply: 3, by: 'self' });
    expect(codes('d2d4 g8f6 g1f3')).toEqual(['c2c4']);
    expect(left('d2d4 f7f5 c2c4')).toMatchObject({ ply: 2, by: 'opponent' });
    expect(codes('d2d4 f7f5')).toEqual(['g8f6', 'd7d5']);
    expect(left('d2d4 d7d5 c2c4 e7e6')).toMatchObject({ ply: 4, by: 'end', prepared: [] });
  });

  it('is in it as long as it lasts, by whatever order of moves', () => {
    expect(left('d2d4 g8f6 c2c4')).toMatchObject({ ply: null, by: null });
    // both orders lead to one position, whose answers are those of both lines
    expect(codes('c2c4 g8f6 d2d4')).toEqual(['e7e6', 'g7g6']);
    expect(left('c2c4 g8f6 d2d4 e7e6')).toMatchObject({ ply: null });
  });

  it('is nothing to one that does not know how it begins', () => {
    expect(parting(preparationOf(chess, 0, []), chess.startText, [])).toBeNull();
    const setUp = chess.write(chess.play(chess.start(), movesOf('chess', 'a2a3')[0]!));
    expect(parting(mine, setUp, [])).toBeNull();
  });

  it.each(GAME_KINDS)('%s: holds each of its own lines to the end', (kind) => {
    fc.assert(
      fc.property(randomLines(kind), fc.constantFrom<Side>(0, 1), (lines, side) => {
        const ruleset = rulesetOf(kind);
        const [first, ...others] = lines;
        const both = preparationOf(ruleset, side, [
          { id: 1, tree: treeOf(kind, [first!]) },
          { id: 2, tree: treeOf(kind, others) },
        ]);
        for (const line of lines)
          expect(parting(both, ruleset.startText, line)).toMatchObject({ ply: null, by: null });
      }),
      { numRuns: 30 },
    );
  });
});

/** A base that is given as what was played after each line. */
const baseOf =
  (played: Record<string, Record<string, number>>) =>
  (keys: readonly bigint[]): Promise<Reply[][]> => {
    const known = new Map(
      Object.entries(played).map(([line, replies]) => [
        chess.keysAlong(chess.start(), movesOf('chess', line)).at(-1)!,
        Object.entries(replies).map(([code, games]) => ({ move: chess.parseCode(code)!, games })),
      ]),
    );
    return Promise.resolve(keys.map((key) => known.get(key) ?? []));
  };

describe('what is to be expected', () => {
  const base = baseOf({
    e2e4: { e7e5: 50, c7c5: 30, e7e6: 20 },
    'e2e4 e7e5 g1f3': { b8c6: 40, d7d6: 10 },
    'e2e4 e7e5 f1c4': {},
  });

  it('is how often the opponents play so; of one’s own moves each as often as the others', async () => {
    const mine = prepared(0, 'e2e4 e7e5 g1f3', 'e2e4 e7e5 f1c4', 'e2e4 c7c5');
    const { expected, gaps } = await expectations(mine, base, 0);
    const at = (line: string) =>
      expected.get(chess.keysAlong(chess.start(), movesOf('chess', line)).at(-1)!);
    expect(at('e2e4')).toBe(1);
    expect(at('e2e4 e7e5')).toBeCloseTo(0.5);
    expect(at('e2e4 e7e5 f1c4')).toBeCloseTo(0.25);
    const told = gaps.map(({ kind, move, games, of, expected: often, way }) => [
      kind,
      way.map((one) => chess.code(one)).join(' '),
      move && chess.code(move),
      games,
      of,
      Number(often.toFixed(4)),
    ]);
    expect(told).toEqual([
      // an answer to it is still missing
      ['reply', 'e2e4', 'c7c5', 30, 100, 0.3],
      ['end', 'e2e4 e7e5 g1f3', 'b8c6', 40, 50, 0.25],
      ['end', 'e2e4 e7e5 f1c4', null, 0, 0, 0.25],
      ['reply', 'e2e4', 'e7e6', 20, 100, 0.2],
    ]);
    expect(gaps[0]!.at).toEqual({ sheet: 7, node: 1 });
  });

  it('leaves out what comes less often than asked, and ends where lines repeat themselves', async () => {
    const mine = prepared(0, 'e2e4 e7e5');
    const { gaps } = await expectations(mine, base, 0.25);
    expect(gaps.map(({ move }) => chess.code(move!))).toEqual(['e7e5', 'c7c5']);
    // what comes exactly so often counts
    expect((await expectations(mine, base, 0.3)).gaps).toHaveLength(2);
    expect((await expectations(mine, base, 0.301)).gaps).toHaveLength(1);
    const two = prepared(0, 'e2e4 e7e5 g1f3', 'e2e4 e7e5 f1c4');
    const ends = async (least: number) =>
      (await expectations(two, base, least)).gaps.filter(({ kind }) => kind === 'end').length;
    expect(await ends(0.25)).toBe(2);
    expect(await ends(0.251)).toBe(0);
    const round = prepared(0, 'g1f3 g8f6 f3g1 f6g8');
    const shuffle = baseOf({ g1f3: { g8f6: 1 }, 'g1f3 g8f6 f3g1': { f6g8: 1 } });
    expect((await expectations(round, shuffle, 0)).gaps).toEqual([]);
  });

  it.each(GAME_KINDS)('%s: every game ends in a gap where all replies are known', async (kind) => {
    await fc.assert(
      fc.asyncProperty(randomLines(kind), fc.constantFrom<Side>(0, 1), async (lines, side) => {
        const ruleset = rulesetOf(kind);
        const mine = preparationOf(ruleset, side, [{ id: 1, tree: treeOf(kind, lines) }]);
        const all = (keys: readonly bigint[]): Promise<Reply[][]> =>
          Promise.resolve(
            keys.map((key) =>
              ruleset
                .moves(mine.positions.get(key)!.position)
                .map((move, index) => ({ move, games: 1 + (index % 3) })),
            ),
          );
        const { gaps } = await expectations(mine, all, 0);
        const [root] = mine.starts;
        // a sheet whose first move is one's own and missing expects nothing
        if (mine.positions.get(root!)!.moves.length === 0 && side === 0) return;
        expect(gaps.reduce((sum, { expected }) => sum + expected, 0)).toBeCloseTo(1, 9);
        expect(gaps.every((gap, index) => gap.expected <= (gaps[index - 1]?.expected ?? 1))).toBe(
          true,
        );
      }),
      { numRuns: 20 },
    );
  });
});

describe('the outline of a sheet', () => {
  it('has each move once, a stretch up to where the sheet branches', () => {
    const tree = treeOf(
      'chess',
      ['e2e4 e7e5 g1f3 b8c6', 'e2e4 e7e5 g1f3 g8f6', 'd2d4 d7d5'].map((line) =>
        movesOf('chess', line),
      ),
    );
    const texts = (isSplit = (_: number) => false) =>
      outlineOf(tree, isSplit).map(
        ({ nodes, depth }) =>
          `${depth} ${nodes.map((id) => chess.code(nodeOf(tree, id).move)).join(' ')}`,
      );
    expect(texts()).toEqual(['0 e2e4 e7e5 g1f3', '1 b8c6', '1 g8f6', '0 d2d4 d7d5']);
    expect(texts((node) => node === 1)[0]).toBe('0 e2e4');
    expect(sizeOf(tree)).toEqual({ lines: 3, moves: 7 });
    expect(sizeOf(treeOf('chess', []))).toEqual({ lines: 0, moves: 0 });
  });

  it('holds with any sheet', () => {
    fc.assert(
      fc.property(randomLines('shogi'), fc.func(fc.boolean()), (lines, isSplit) => {
        const tree = treeOf('shogi', lines);
        const all = outlineOf(tree, isSplit).flatMap(({ nodes }) => nodes);
        const inOrder = [...nodesInOrder(tree)].map(({ id }) => id).filter((id) => id !== ROOT);
        expect(all).toEqual(inOrder);
      }),
      { numRuns: 30 },
    );
  });
});

describe('lines of own games', () => {
  const game = (line: string, result: Result) => ({ moves: movesOf('chess', line), result });
  const games = [
    game('e2e4 e7e5 g1f3', '1-0'),
    game('e2e4 e7e5 g1f3', '1/2-1/2'),
    game('e2e4 e7e5 f1c4', '0-1'),
    game('e2e4 e7e5 f1c4', '0-1'),
    game('e2e4 e7e5 f1c4', '0-1'),
    game('e2e4 c7c5 g1f3', '1-0'),
    game('d2d4 d7d5', '1-0'),
  ];
  const lines = (side: Side, worth: { games: number; share: number; plies: number }) => {
    const tree = linesOfGames(chess, side, games, worth);
    return [...nodesInOrder(tree)]
      .filter(({ id, children }) => children.length === 0 && id !== ROOT)
      .map((end) => {
        const codes: string[] = [];
        for (let node = end; node.parent !== null; node = nodeOf(tree, node.parent))
          codes.unshift(chess.code(node.move));
        return codes.join(' ');
      });
  };

  it('keep one’s own move that came up most among those that did well, and replies that have an answer', () => {
    expect(lines(0, { games: 2, share: 40, plies: 12 })).toEqual(['e2e4 e7e5 g1f3']);
    expect(lines(0, { games: 1, share: 40, plies: 12 }).sort()).toEqual([
      'e2e4 c7c5 g1f3',
      'e2e4 e7e5 g1f3',
    ]);
    expect(lines(0, { games: 2, share: 40, plies: 2 })).toEqual(['e2e4']);
  });

  it('keep none that came up too rarely, or came to too little', () => {
    expect(lines(0, { games: 1, share: 76, plies: 12 })).toEqual(['d2d4']);
    expect(lines(0, { games: 1, share: 100, plies: 12 })).toEqual(['d2d4']);
    expect(lines(0, { games: 7, share: 0, plies: 12 })).toEqual([]);
    const open = linesOfGames(chess, 0, [game('e2e4', '*')], { games: 1, share: 0, plies: 12 });
    expect(sizeOf(open).moves).toBe(0);
    // Black’s score, and no reply without an answer
    expect(lines(1, { games: 2, share: 60, plies: 12 })).toEqual(['e2e4 e7e5']);
    expect(lines(1, { games: 2, share: 71, plies: 12 })).toEqual([]);
  });
});

describe('lines that are put into a sheet', () => {
  it('keep what is said of moves and nothing of one game', () => {
    const tree = treeOf('chess', [movesOf('chess', 'e2e4 e7e5')]);
    const nodes = new Map(tree.nodes);
    nodes.set(1, {
      ...nodeOf(tree, 1),
      comment: 'the best by test',
      symbols: [1],
      clock: 1000,
      spent: 10,
      lesson: 'mine',
      evaluation: { score: { kind: 'points', value: 20 }, depth: 9 } as never,
    });
    expect(nodeOf(linesOf({ ...tree, nodes }), 1)).toEqual({
      ...nodeOf(tree, 1),
      comment: 'the best by test',
      symbols: [1],
    });
  });

  it('have so many half moves in common with another sheet', () => {
    const sheet = treeOf('chess', [
      movesOf('chess', 'd2d4 d7d5'),
      movesOf('chess', 'e2e4 e7e5 g1f3'),
    ]);
    const common = (line: string) => commonPlies(treeOf('chess', [movesOf('chess', line)]), sheet);
    expect(common('e2e4 e7e5 f1c4')).toBe(2);
    expect(common('e2e4 e7e5 g1f3 b8c6')).toBe(3);
    expect(common('c2c4')).toBe(0);
  });

  it('are one tree, each line once, with what the first says of a move', () => {
    fc.assert(
      fc.property(randomLines('chess'), (lines) => {
        const trees = lines.map((line) => treeOf('chess', [line]));
        const joined = joinedLines(trees as [GameTree, ...GameTree[]])!;
        expect(joined.nodes.size).toBe(treeOf('chess', lines).nodes.size);
        const all = preparationOf(chess, 0, [{ id: 1, tree: joined }]);
        for (const line of lines)
          expect(parting(all, chess.startText, line)).toMatchObject({ ply: null });
      }),
      { numRuns: 30 },
    );
    const said = (comment: string) => {
      const tree = treeOf('chess', [movesOf('chess', 'e2e4')]);
      return { ...tree, nodes: new Map(tree.nodes).set(1, { ...nodeOf(tree, 1), comment }) };
    };
    const bare = treeOf('chess', [movesOf('chess', 'e2e4')]);
    expect(nodeOf(joinedLines([bare, said('one'), said('two')])!, 1).comment).toBe('one');
  });
});
