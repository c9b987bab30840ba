import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { codesAlong, randomGame, randomPosition } from '../../tests/support/random-positions';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from './hosts/node';
import { rowOf, tune, tuningError } from './learning/tuner';
import type { SearchModule } from './search-module';
import { randomSource } from './draw';
import { TERM_GROUPS, type TermWeights } from './terms';

const search = {} as Record<GameKind, SearchModule>;
beforeAll(async () => {
  for (const kind of GAME_KINDS)
    search[kind] = await loadSearch({ modules: resolve('dist/engine') }, kind, {
      table: 1,
      checked: true,
    });
});

const valueNamed = (kind: GameKind, position: string, name: string): number =>
  search[kind].terms(position).find((term) => term.name === name)?.value ?? 0;

interface Piece {
  letter: string;
  side: 0 | 1;
  file: number;
  /** 0–7 as its own side counts. */
  rank: number;
}

/** Counts of the terms of pawns and outposts in a chess position, straight from their definitions: White's less Black's. */
function plainCounts(position: string): Record<string, number[]> {
  const pieces: Piece[] = position
    .split(' ')[0]!
    .split('/')
    .flatMap((row, fromTop) => {
      const squares = [...row.replace(/\d/g, (digit) => '.'.repeat(Number(digit)))];
      return squares.flatMap((letter, file) => {
        if (letter === '.') return [];
        const side = letter === letter.toLowerCase() ? 1 : 0;
        return {
          letter: letter.toUpperCase(),
          side,
          file,
          rank: side === 0 ? 7 - fromTop : fromTop,
        };
      });
    });
  const counts: Record<string, number[]> = {
    'isolated pawns': [0],
    'doubled pawns': [0],
    'backward pawns': [0],
    'connected pawns': Array(8).fill(0),
    'passed pawns': Array(8).fill(0),
    'free passed pawns': Array(8).fill(0),
    'knight outposts': [0],
    'bishop outposts': [0],
  };
  const count = (name: string, { side }: Piece, index = 0) =>
    (counts[name]![index]! += side === 0 ? 1 : -1);
  for (const piece of pieces) {
    const { letter, side, file, rank } = piece;
    const rankSeen = (other: Piece): number => (other.side === side ? other.rank : 7 - other.rank);
    const pawns = pieces.filter((other) => other.letter === 'P' && other !== piece);
    const own = pawns.filter((pawn) => pawn.side === side);
    const others = pawns.filter((pawn) => pawn.side !== side);
    const besides = (pawn: Piece): boolean => Math.abs(pawn.file - file) === 1;
    const canBeAttacked = others.some((pawn) => besides(pawn) && rankSeen(pawn) > rank);
    const isCovered = own.some((pawn) => besides(pawn) && pawn.rank === rank - 1);
    if (letter === 'N' || letter === 'B') {
      const isOutpost = isCovered && !canBeAttacked && rank >= 3 && rank <= 5;
      if (isOutpost) count(letter === 'N' ? 'knight outposts' : 'bishop outposts', piece);
    }
    if (letter !== 'P') continue;
    const isFirst = !own.some((pawn) => pawn.file === file && pawn.rank > rank);
    if (!isFirst) count('doubled pawns', piece);
    const neighbours = own.filter(besides);
    if (neighbours.length === 0) count('isolated pawns', piece);
    else if (isCovered || neighbours.some((pawn) => pawn.rank === rank))
      count('connected pawns', piece, rank);
    else if (
      neighbours.every((pawn) => pawn.rank > rank) &&
      others.some((pawn) => besides(pawn) && rankSeen(pawn) === rank + 2)
    )
      count('backward pawns', piece);
    const isStopped = others.some((pawn) => pawn.file === file && rankSeen(pawn) > rank);
    if (!isFirst || isStopped || canBeAttacked) continue;
    count('passed pawns', piece, rank);
    if (!pieces.some((other) => other.file === file && rankSeen(other) > rank))
      count('free passed pawns', piece, rank);
  }
  return counts;
}

describe('the readable evaluation', () => {
  it.each(GAME_KINDS)('is the sum of its terms: %s', (kind) => {
    fc.assert(
      fc.property(randomPosition(kind), (position) => {
        const sum = search[kind].terms(position).reduce((total, { value }) => total + value, 0);
        expect(Math.abs(sum - search[kind].explain(position).value)).toBeLessThanOrEqual(2);
      }),
      { numRuns: 150 },
    );
  });

  it.each(GAME_KINDS)('comes to the same with and without counts, however weighted: %s', (kind) => {
    const readable = search[kind];
    const file = readFileSync(`src/engine/weights/${kind}-terms.json`, 'utf8');
    const weights = JSON.parse(file) as TermWeights;
    const doubled: TermWeights = Object.fromEntries(
      Object.entries(weights).map(([name, pairs]) => [
        name,
        pairs.map(([early, late]) => [2 * early, 2 * late] as const),
      ]),
    );
    fc.assert(
      fc.property(randomPosition(kind), (position) => {
        for (const weighting of [weights, doubled, weights]) {
          readable.setTerms(weighting);
          // what the first call summed is used again by the second
          const values = [readable.termsValue(position), readable.termsValue(position)];
          const { value } = readable.explain(position);
          const forMover =
            rulesetOf(kind).side(rulesetOf(kind).start(position)) === 0 ? value : 0 - value;
          expect(values).toEqual([forMover, forMover]);
        }
      }),
      { numRuns: 150 },
    );
  });

  it.each(GAME_KINDS)(
    'comes to the same carried along a line, move by move or several at once: %s',
    (kind) => {
      const ruleset = rulesetOf(kind);
      fc.assert(
        fc.property(randomGame(kind), fc.integer({ min: 1, max: 3 }), (positions, every) => {
          const carried = search[kind].termsValuesAlong(
            ruleset.write(positions[0]!),
            codesAlong(kind, positions),
            every,
          );
          carried.forEach((value, index) =>
            expect(value).toBe(search[kind].termsValue(ruleset.write(positions[index * every]!))),
          );
        }),
        { numRuns: 40 },
      );
    },
  );

  it('sees both sides alike: a chess position and its image with colours changed', () => {
    fc.assert(
      fc.property(randomPosition('chess'), (position) => {
        const [board, side, rights] = position.split(' ') as [string, string, string];
        const swapped = (text: string): string =>
          [...text]
            .map((c) => (c === c.toLowerCase() ? c.toUpperCase() : c.toLowerCase()))
            .join('');
        const image = `${swapped(board.split('/').reverse().join('/'))} ${side === 'w' ? 'b' : 'w'} ${
          rights === '-' ? '-' : [...swapped(rights)].sort().join('')
        } - 0 1`;
        expect(search.chess.explain(image).value).toBe(
          0 - search.chess.explain(`${board} ${side} ${rights} - 0 1`).value,
        );
      }),
      { numRuns: 150 },
    );
  });

  it('counts pawns and outposts as they are defined, one by one', () => {
    fc.assert(
      fc.property(randomPosition('chess'), (position) => {
        const { counts } = search.chess.explain(position);
        const told = Object.fromEntries(
          Object.keys(plainCounts(position)).map((name) => {
            const { first, size } = TERM_GROUPS.chess.find((group) => group.name === name)!;
            return [name, [...counts.slice(first, first + size)]];
          }),
        );
        expect(told).toEqual(plainCounts(position));
      }),
      { numRuns: 300 },
    );
  });

  it('names what a player would name', () => {
    const named = (position: string, name: string): number => valueNamed('chess', position, name);
    expect(named('4k3/8/8/8/8/8/8/2B1KB2 w - - 0 1', 'bishop pair')).toBeGreaterThan(0);
    expect(named('4k3/pp6/8/8/8/8/P1P5/4K3 w - - 0 1', 'isolated pawns')).toBeLessThan(0);
    expect(named('4k3/8/8/3P4/8/8/8/4K3 w - - 0 1', 'passed pawns')).toBeGreaterThan(0);
    expect(named('4k3/p7/8/8/8/8/P7/3RK3 w - - 0 1', 'rooks on open files')).toBeGreaterThan(0);
    expect(valueNamed('shogi', '4k4/9/9/9/9/9/9/9/4K4 b R 1', 'pieces in hand')).toBeGreaterThan(
      500,
    );
  });

  it.each(GAME_KINDS)('has a weight for every term that can count: %s', (kind) => {
    const known = new Set(
      TERM_GROUPS[kind].flatMap(({ first, size }) =>
        Array.from({ length: size }, (_, i) => first + i),
      ),
    );
    fc.assert(
      fc.property(randomPosition(kind), (position) => {
        search[kind].explain(position).counts.forEach((count, term) => {
          if (count !== 0) expect(known.has(term)).toBe(true);
        });
      }),
      { numRuns: 100 },
    );
  });

  it('is tuned towards what games show', () => {
    // in these games, the side with the knight always wins and the pawn means nothing
    const samples = Array.from({ length: 200 }, (_, index) => ({
      position: index % 2 ? '4k3/p7/8/8/8/8/8/N3K3 w - - 0 1' : 'n3k3/8/8/8/8/8/P7/4K3 w - - 0 1',
      score: 0,
      result: index % 2,
    }));
    const rows = samples.map((sample) => rowOf(search.chess, sample, 0, 250));
    const start: TermWeights = Object.fromEntries(
      TERM_GROUPS.chess.map(({ name, size }) => [
        name,
        Array.from({ length: size }, () => [0, 0] as const),
      ]),
    );
    const tuned = tune(
      'chess',
      rows,
      start,
      { epochs: 60, batch: 50, rate: 5, chanceScale: 250 },
      randomSource(1),
    );
    expect(tuningError('chess', rows, tuned, 250)).toBeLessThan(
      tuningError('chess', rows, start, 250) / 4,
    );
    expect(tuned['material']![2]![1]).toBeGreaterThan(50);
  });
});
