import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chess } from '@/core/chess/ruleset';
import { PositionError } from '@/core/game/ruleset';
import { movesOf, readValue, valueOf, type Look } from '@/core/endings/exact';
import { setsOf, slicesOf } from '@/core/endings/sets';
import { place, waysOut, type Slice } from '@/core/endings/slice';
import { readVectors } from '../../../tests/support/vectors';
import { randomSource } from '../draw';
import { buildEndings } from './ending-build';
import { DamagedEnding, endingFile, EndingFiles, type SliceValues } from './ending-files';
import { EndingSolver } from './ending-solver';

const FILES = {
  module: resolve('dist/engine/endings.wasm'),
  thread: resolve('dist/ending-thread.mjs'),
};
const folder = mkdtempSync(join(tmpdir(), 'endings-'));
afterAll(() => rmSync(folder, { recursive: true }));

const build = (signal = new AbortController().signal, onProgress = (): void => {}) =>
  buildEndings(FILES, { folder, pieces: 3, threads: 2, signal, onProgress });

interface Vector {
  ending: string;
  fen: string;
  result: 'win' | 'draw' | 'loss';
  dtm: number | null;
  best?: string[];
}

describe('ending tables of three pieces', () => {
  beforeAll(async () => {
    const stop = new AbortController();
    // stopped half-way, then made to the end
    await expect(build(stop.signal, () => stop.abort(new Error('stopped')))).rejects.toThrow(
      'stopped',
    );
    expect((await build()).sets).toBeGreaterThan(0);
  });

  it('know each published position, with its best moves', async () => {
    const tables = new EndingFiles(folder);
    const vectors = await readVectors<Vector>('endings.jsonl');
    expect(vectors).toHaveLength(150);
    for (const { fen, result, dtm, best } of vectors) {
      const position = chess.start(fen);
      const exact = readValue(valueOf(position, tables.look)!);
      expect([fen, exact.result]).toEqual([fen, result]);
      if (exact.result !== 'draw') expect([fen, exact.plies]).toEqual([fen, dtm]);
      if (!best) continue;
      const moves = movesOf(position, tables.look)!;
      const keeping = moves.filter(({ behind }) => behind === moves[0]!.behind);
      expect([fen, keeping.map(({ move }) => chess.code(move)).sort()]).toEqual([fen, best]);
    }
    tables.close();
  });

  it('are made once, and anew where they are damaged', async () => {
    expect(await build()).toEqual({ sets: 0, positions: 0, bytes: 0 });
    const path = endingFile(folder, 'KRK');
    const whole = readFileSync(path);
    const turned = Buffer.from(whole);
    turned[turned.length - 20]! ^= 1;
    const position = chess.start('8/8/8/8/8/2k5/8/K6R w - - 0 1');
    for (const damage of [
      () => writeFileSync(path, turned),
      () => truncateSync(path, whole.length - 100),
      () => truncateSync(path, 30),
    ]) {
      damage();
      const tables = new EndingFiles(folder);
      const ask = (): unknown => slicesOf('KRK').map(() => valueOf(position, tables.look));
      const all = chess.moves(position).map((move) => chess.play(position, move));
      expect(() => {
        ask();
        for (const next of all) valueOf(next, tables.look);
      }).toThrow(DamagedEnding);
      tables.close();
      expect((await build()).sets).toBe(1);
      expect(readFileSync(path)).toEqual(whole);
    }
  });

  it('are not known of more pieces, and not where somebody may castle', () => {
    const tables = new EndingFiles(folder);
    expect(valueOf(chess.start('8/8/8/4k3/8/8/8/R3K2R w - - 0 1'), tables.look)).toBeNull();
    expect(valueOf(chess.start('8/8/8/4k3/8/8/8/4K2R w K - 0 1'), tables.look)).toBeNull();
    expect(valueOf(chess.start('8/8/8/4k3/8/8/8/4K2R w - - 0 1'), tables.look)).not.toBeNull();
    expect(valueOf(chess.start('8/8/8/4k3/8/8/8/4K3 w - - 0 1'), tables.look)).toBe(0);
    tables.close();
  });
});

/** Published lengths of the longest wins, in moves of the stronger side, who is to move. */
const LONGEST: Readonly<Record<string, number>> = {
  ...{ KQK: 10, KRK: 16, KPK: 28, KBBK: 19, KBNK: 33, KNNK: 1 },
  ...{ KQKR: 35, KRKB: 29, KRKN: 40, KQKB: 17, KQKN: 21, KQKQ: 13, KRKR: 19 },
};

describe('ending tables of four pieces', async () => {
  const solver = await EndingSolver.load(FILES.module);
  const known = new Map<string, SliceValues>();
  const solve = async (slice: Slice): Promise<void> => {
    if (known.has(slice.key)) return;
    for (const { placing } of waysOut(slice)) if (placing) await solve(placing.slice);
    known.set(slice.key, await solver.solve(slice, known));
  };
  const look: Look = ({ slice, number, toMove }) => known.get(slice.key)?.[toMove][number] ?? null;

  beforeAll(async () => {
    for (const set of Object.keys(LONGEST)) for (const slice of slicesOf(set)) await solve(slice);
    // with all that can be reached from there: a pawn that may be captured in passing
    await solve(
      place([
        { side: 0, piece: 'P', square: 12 },
        { side: 1, piece: 'P', square: 29 },
      ]).slice,
    );
  }, 120_000);

  it.each(Object.entries(LONGEST))('%s is won in %d moves at most', (set, moves) => {
    let longest = 0;
    for (const slice of slicesOf(set))
      for (const value of known.get(slice.key)![0])
        if (value !== 255 && value % 2 === 0) longest = Math.max(longest, value - 1);
    expect((longest + 1) / 2).toBe(moves);
  });

  /** Any position of a slice's men that may stand so, as FEN. */
  const drawn = (slice: Slice, random: () => number): string => {
    const squares: (string | null)[] = Array.from({ length: 64 }, () => null);
    const put = (letter: string, at?: number): void => {
      let square = at ?? Math.floor(random() * 64);
      while (squares[square] !== null) square = Math.floor(random() * 64);
      squares[square] = letter;
    };
    for (const { piece, side, square } of slice.men)
      if (square !== undefined) put(side === 0 ? piece : piece.toLowerCase(), square);
    for (const { piece, side, square } of slice.men)
      if (square === undefined) put(side === 0 ? piece : piece.toLowerCase());
    put('K');
    put('k');
    const rows = Array.from({ length: 8 }, (_, row) =>
      squares
        .slice(8 * (7 - row), 8 * (8 - row))
        .map((letter) => letter ?? '1')
        .join(''),
    );
    return `${rows.join('/')} ${random() < 0.5 ? 'w' : 'b'} - - 0 1`;
  };

  it('agree with the rules: a position is worth what its best move is', () => {
    const random = randomSource(16);
    let checked = 0;
    for (const key of [...known.keys()]) {
      const [slice] = slicesOf(key.split(' ')[0]!).filter((one) => one.key === key);
      for (let tried = 0; tried < 60; tried++) {
        let position;
        try {
          position = chess.start(drawn(slice!, random));
        } catch (error) {
          expect(error).toBeInstanceOf(PositionError);
          continue;
        }
        const value = valueOf(position, look)!;
        const moves = movesOf(position, look)!;
        const expected =
          moves.length > 0
            ? moves[0]!.behind === 0
              ? 0
              : moves[0]!.behind + 1
            : chess.inCheck(position)
              ? 1
              : 0;
        expect([chess.write(position), value]).toEqual([chess.write(position), expected]);
        checked++;
      }
    }
    expect(checked).toBeGreaterThan(4000);
  });

  it('know captures in passing', () => {
    const position = chess.start('8/8/8/8/5p2/8/4P3/k1K5 w - - 0 1');
    const leap = chess.parseCode('e2e4')!;
    const behind = chess.play(position, leap);
    expect(behind.enPassantIsLegal()).toBe(true);
    const told = valueOf(behind, look)!;
    const moves = movesOf(behind, look)!;
    expect(moves.map(({ move }) => chess.code(move))).toContain('f4e3');
    expect(told).toBe(moves[0]!.behind === 0 ? 0 : moves[0]!.behind + 1);
    expect(valueOf(position, look)).not.toBeNull();
  });
});

it('sets are named in one way', () => {
  for (const set of [...setsOf(3), ...setsOf(4)])
    for (const slice of slicesOf(set).slice(0, 3)) expect(slice.key.split(' ')[0]).toBe(set);
});
