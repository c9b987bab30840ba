import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Move } from '../game/move';
import { BlockCursor, findInBlock, type Block, type Continuation } from './block';
import { joined, mergeBlocks } from './merge-blocks';
import { packMoves, unpackMoves } from './packed-moves';
import { Segment } from './segment';

interface Played {
  keys: bigint[];
  moves: number[];
}

const blocksOf = (games: readonly Played[], step = 1): Block[] => {
  const segment = new Segment();
  games.forEach(({ keys, moves }, index) => segment.add(index * step, keys, moves as Move[]));
  return [...segment.blocks()];
};

const find = (blocks: readonly Block[], key: bigint): Continuation[] =>
  blocks
    .filter(({ first, last }) => first <= key && key <= last)
    .flatMap(({ bytes }) => findInBlock(bytes, key));

/** The same by looking at all games. */
function recount(games: readonly Played[], key: bigint, step = 1): Map<number | null, number[]> {
  const found = new Map<number | null, number[]>();
  games.forEach(({ keys, moves }, index) => {
    const played = new Set(keys.flatMap((at, ply) => (at === key ? [moves[ply] ?? null] : [])));
    for (const move of played) found.set(move, [...(found.get(move) ?? []), index * step]);
  });
  return found;
}

/** Keys that are often the same, or differ only at either end. */
const key = fc.oneof(
  fc.bigInt(0n, 5n),
  fc.bigInt(0n, 3n).map((high) => (high << 62n) | 7n),
  fc.bigInt(0n, 2n ** 64n - 1n),
);
const game = fc
  .array(fc.tuple(key, fc.integer({ min: 0, max: 2 ** 22 - 1 })), { minLength: 1, maxLength: 30 })
  .map((plies) => ({
    keys: plies.map(([at]) => at),
    moves: plies.slice(1).map(([, move]) => (move % 4 === 0 ? 5 : move)),
  }));

/** Blocks as they come from where they are stored. */
async function* stored(blocks: readonly Block[]): AsyncGenerator<Uint8Array> {
  for (const { bytes } of blocks) {
    await Promise.resolve();
    yield bytes;
  }
}

describe('segments', () => {
  it('make one, as if all games had come at once', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(game, { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 1, max: 5 }),
        async (games, count) => {
          const segments = Array.from({ length: count }, () => new Segment());
          games.forEach(({ keys, moves }, index) =>
            segments[Math.floor((index * count) / games.length)]!.add(index, keys, moves as Move[]),
          );
          const merged: Block[] = [];
          for await (const block of mergeBlocks(segments.map((one) => stored([...one.blocks()]))))
            merged.push(block);
          expect(told(merged)).toEqual(told(blocksOf(games)));
        },
      ),
    );
  });

  it('make one where one alone holds a position of more games than a block has room for', async () => {
    const crowd = Array.from({ length: 60_000 }, () => ({ keys: [9n, 4n], moves: [3] }));
    const other = new Segment();
    other.add(crowd.length, [5n], []);
    const merged: Block[] = [];
    for await (const block of mergeBlocks([stored(blocksOf(crowd)), stored([...other.blocks()])]))
      merged.push(block);
    expect(merged.map(({ first, last }) => [first, last])).toEqual([
      [4n, 4n],
      [5n, 9n],
    ]);
    const games = Array.from(crowd, (_, game) => game);
    expect(find(merged, 4n)).toEqual([{ move: null, games }]);
    expect(find(merged, 5n)).toEqual([{ move: null, games: [crowd.length] }]);
    expect(find(merged, 9n)).toEqual([{ move: 3, games }]);
  });
});

/** What blocks hold, whatever the order of moves. */
const told = (blocks: readonly Block[]) =>
  blocks.flatMap(({ first, last, bytes }) => {
    const positions: [bigint, Continuation[]][] = [];
    const cursor = new BlockCursor(bytes);
    while (cursor.step()) positions.push([cursor.key, cursor.read()]);
    expect([positions[0]![0], positions.at(-1)![0]]).toEqual([first, last]);
    return positions.map(
      ([at, played]) => [at, new Map(played.map(({ move, games }) => [move, [...games]]))] as const,
    );
  });

describe('a segment of a base', () => {
  it('finds what was played at every position, and nothing elsewhere', () => {
    fc.assert(
      fc.property(
        fc.array(game, { minLength: 1, maxLength: 40 }),
        key,
        fc.constantFrom(1, 3000),
        (games, other, step) => {
          const blocks = blocksOf(games, step);
          for (const wanted of new Set([...games.flatMap(({ keys }) => keys), other])) {
            const found = find(blocks, wanted);
            const byMove = new Map(found.map(({ move, games: by }) => [move, [...by]]));
            expect(byMove.size).toBe(found.length);
            expect(byMove).toEqual(recount(games, wanted, step));
          }
        },
      ),
    );
  });

  it('has its blocks in order, each of about eight thousand bytes, a position in one only', () => {
    const games = Array.from({ length: 3000 }, (_, index) => ({
      keys: [1n, BigInt(index % 7) + 2n, (BigInt(index) << 40n) | 9n, BigInt(index) << 41n],
      moves: [1, 2, index],
    }));
    const blocks = blocksOf(games);
    expect(blocks.length).toBeGreaterThan(5);
    for (const [index, { first, last, bytes }] of blocks.entries()) {
      expect(first <= last).toBe(true);
      if (index > 0) expect(blocks[index - 1]!.last < first).toBe(true);
      // one more position than there was room for
      expect(bytes.length).toBeLessThan(8000 + 3100);
    }
    expect(find(blocks, 1n)).toEqual([{ move: 1, games: Array.from(games.keys()) }]);
  });

  it('has nothing of a position outside a block', () => {
    const [block] = blocksOf([{ keys: [4n, 5n], moves: [1] }]);
    for (const key of [0n, 3n, 6n, 2n ** 64n - 1n])
      expect(findInBlock(block!.bytes, key)).toEqual([]);
  });

  it('tells the move that passes from the end of a game', () => {
    const blocks = blocksOf([
      { keys: [4n, 5n], moves: [0] },
      { keys: [4n], moves: [] },
    ]);
    expect(find(blocks, 4n)).toEqual([
      { move: 0, games: [0] },
      { move: null, games: [1] },
    ]);
  });

  it('is full where another game has no room', () => {
    const segment = new Segment();
    expect(segment.isFull(2 ** 23 - 1)).toBe(false);
    expect(segment.isFull(2 ** 23)).toBe(true);
    segment.add(0, [1n, 2n], [3 as Move]);
    expect(segment.isFull(2 ** 23 - 3)).toBe(false);
    expect(segment.isFull(2 ** 23 - 2)).toBe(true);
  });
});

it('moves are packed and unpacked', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 2 ** 22 - 1 })), (moves) => {
      const bytes = packMoves(moves as Move[]);
      expect(bytes.length).toBe(3 * moves.length);
      expect(unpackMoves(bytes)).toEqual(moves);
    }),
  );
});

describe('what was played at a position in several parts', () => {
  it('is told once for each way, with the games of all in order', () => {
    const [one, other] = [1, 2] as Move[];
    const parts = [
      [
        { move: one!, games: [1, 4] },
        { move: null, games: [2] },
      ],
      [{ move: other!, games: [5] }],
      [
        { move: null, games: [9] },
        { move: one!, games: [7, 8] },
      ],
    ];
    expect(joined(parts)).toEqual([
      { move: one, games: [1, 4, 7, 8] },
      { move: null, games: [2, 9] },
      { move: other, games: [5] },
    ]);
    expect(joined([])).toEqual([]);
  });
});
