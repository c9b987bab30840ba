import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chess } from '@/core/chess/ruleset';
import { boundsOf, menOn, moveBounds, readValue, worthOf, type Result } from '@/core/endings/exact';
import { setsOf, slicesOf } from '@/core/endings/sets';
import { sizeOf, type Slice } from '@/core/endings/slice';
import { PositionError } from '@/core/game/ruleset';
import { readVectors } from '../../../tests/support/vectors';
import { randomSource } from '../draw';
import { buildEndings } from './ending-build';
import { EndingFiles, NO_POSITION, readEndingFile } from './ending-files';
import { EndingResults, packResults } from './ending-results';

const FILES = {
  module: resolve('dist/engine/endings.wasm'),
  thread: resolve('dist/ending-thread.mjs'),
};
const SHIPPED = resolve('dist/engine/ending-results.bin');
const folder = mkdtempSync(join(tmpdir(), 'ending-results-'));
const nowhere = join(folder, 'nowhere');
afterAll(() => rmSync(folder, { recursive: true }));

beforeAll(async () => {
  const signal = new AbortController().signal;
  await buildEndings(FILES, { folder, pieces: 3, threads: 2, signal, onProgress: () => undefined });
});

/** Every number of a slice at which the tables of three pieces and some results differ. */
function differing(slice: Slice, look: EndingResults['look']): string[] {
  const values = readEndingFile(folder, slice.key.split(' ')[0]!)!.get(slice.key)!;
  const found: string[] = [];
  for (const toMove of [0, 1] as const)
    for (let number = 0; number < sizeOf(slice); number++) {
      const value = values[toMove][number]!;
      if (value === NO_POSITION) continue;
      const { result } = readValue(value);
      if (look({ slice, number, toMove }) !== result)
        found.push(`${slice.key} ${toMove} ${number}`);
    }
  return found;
}

describe('results that ship with the app', () => {
  it('are those of the tables of three pieces, position by position', () => {
    const { look } = new EndingResults(SHIPPED, 4);
    for (const set of setsOf(3))
      for (const slice of slicesOf(set)) expect(differing(slice, look)).toEqual([]);
  });

  it('are what is published', async () => {
    const files = new EndingFiles(nowhere, new EndingResults(SHIPPED, 4).look);
    const vectors = await readVectors<{ fen: string; result: Result }>('endings.jsonl');
    for (const { fen, result } of vectors)
      expect([fen, worthOf(chess.start(fen), files)]).toEqual([
        fen,
        { least: result, most: result, plies: null, isAtMost: false },
      ]);
  });

  it.each(setsOf(4))('are each what the best move of the position makes it: %s', (set) => {
    const files = new EndingFiles(nowhere, new EndingResults(SHIPPED, 4).look);
    const random = randomSource(31);
    let compared = 0;
    while (compared < 60) {
      const position = drawn(set, random);
      const moves = position ? moveBounds(position, files.bounds) : [];
      if (!position || moves.length === 0) continue;
      compared++;
      const results = moves.map(({ bounds: { least, most } }) => {
        expect(least).toBe(most);
        return least;
      });
      const best = (['win', 'draw', 'loss'] as const).find((result) => results.includes(result))!;
      expect([chess.write(position), boundsOf(position, files.bounds)]).toEqual([
        chess.write(position),
        { least: best, most: best },
      ]);
    }
  });

  it('are known up to so many pieces alone, and give way to tables', () => {
    const rook = chess.start('8/8/8/8/8/2k5/8/K6R w - - 0 1');
    const rooks = chess.start('r7/8/8/8/8/2k5/8/K6R w - - 0 1');
    const known = (pieces: number, from = nowhere) => {
      const files = new EndingFiles(from, new EndingResults(SHIPPED, pieces).look);
      return [rook, rooks].map((position) => worthOf(position, files));
    };
    expect(known(4)).toMatchObject([
      { least: 'win', plies: null },
      { least: 'draw', plies: null },
    ]);
    expect(known(3)).toMatchObject([{ least: 'win' }, { least: 'loss', most: 'win' }]);
    expect(known(0)).toMatchObject([
      { least: 'loss', most: 'win' },
      { least: 'loss', most: 'win' },
    ]);
    expect(known(4, folder)[0]!.plies).toBeGreaterThan(0);
  });

  it('are packed from tables, and a set that is damaged is not known', () => {
    const packed = packResults(folder, setsOf(3));
    const path = join(folder, 'three.bin');
    writeFileSync(path, packed);
    const knownOf = (): (Result | null)[] =>
      setsOf(3).map((set) => {
        const [slice] = slicesOf(set);
        return new EndingResults(path, 3).look({ slice: slice!, number: 70, toMove: 0 });
      });
    expect(knownOf()).not.toContain(null);
    const { look } = new EndingResults(path, 3);
    for (const slice of slicesOf('KPK')) expect(differing(slice, look)).toEqual([]);
    const turned = readFileSync(path);
    turned[turned.length - 1]! ^= 1;
    writeFileSync(path, turned);
    expect(knownOf().map((result) => result === null)).toEqual([false, false, false, false, true]);
    expect(() => packResults(folder, ['KRKR'])).toThrow('KRKR is not in');
    expect(
      new EndingResults(join(folder, 'none.bin'), 3).look({
        slice: slicesOf('KRK')[0]!,
        number: 0,
        toMove: 0,
      }),
    ).toBeNull();
  });
});

/** A position of a set with either side to move and either as the stronger; null: drawn in vain. */
function drawn(set: string, random: () => number) {
  const [, strong = '', weak = ''] = set.split('K');
  const letters = [`K${strong}`, `K${weak}`.toLowerCase()].join('');
  const board = new Map<number, string>();
  const turned = random() < 0.5;
  for (const letter of letters) {
    const isPawn = /p/i.test(letter);
    const square = isPawn ? 8 + Math.floor(48 * random()) : Math.floor(64 * random());
    const upper = letter === letter.toUpperCase();
    board.set(square, upper === turned ? letter.toLowerCase() : letter.toUpperCase());
  }
  if (board.size < letters.length) return null;
  const rows = Array.from({ length: 8 }, (_, row) =>
    Array.from({ length: 8 }, (__, file) => board.get((7 - row) * 8 + file) ?? '1').join(''),
  );
  try {
    const position = chess.start(`${rows.join('/')} ${random() < 0.5 ? 'w' : 'b'} - - 0 1`);
    return menOn(position) === letters.length ? position : null;
  } catch (error) {
    if (error instanceof PositionError) return null;
    throw error;
  }
}
