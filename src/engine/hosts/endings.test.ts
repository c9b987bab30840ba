import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { exactAnswer, exactFirst } from '@/core/ask/exact';
import type { Ask, Question } from '@/core/ask/question';
import { sweepGame } from '@/core/ask/sweep-game';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { placeOf, type Place } from '@/core/endings/numbering';
import { shogi } from '@/core/shogi/ruleset';
import { cpScore, mateScore } from '@/core/game/score';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { EXACT_DEPTH } from '@/core/review/evaluation';
import { findingsFrom } from '@/core/review/findings';
import { figuresOf } from '@/core/review/game-figures';
import { PositionError } from '@/core/game/ruleset';
import {
  comesTooLate,
  movesOf,
  placeIn,
  readValue,
  valueOf,
  type Look,
} from '@/core/endings/exact';
import { forcedValue } from '@/core/endings/forced';
import { setsOf, slicesOf } from '@/core/endings/sets';
import { place, waysOut, type Slice } from '@/core/endings/slice';
import { NONE, slowEnding, slowNumber, type Third } from '../../../tests/support/slow-endings';
import { readVectors } from '../../../tests/support/vectors';
import { randomSource } from '../draw';
import { buildEndings, proveSlices } from './ending-build';
import { reachOf } from './ending-plan';
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

beforeAll(async () => {
  const stop = new AbortController();
  // stopped half-way, then made to the end
  await expect(build(stop.signal, () => stop.abort(new Error('stopped')))).rejects.toThrow(
    'stopped',
  );
  expect((await build()).sets).toBeGreaterThan(0);
});

describe('ending tables of three pieces', () => {
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

  it('tell of mates that come after the hundredth half move without a capture or a pawn move', () => {
    const tables = new EndingFiles(folder);
    const isLate = (board: string, halfmoves: number): boolean => {
      const position = chess.start(`${board} - - ${halfmoves} 90`);
      return comesTooLate(position, readValue(valueOf(position, tables.look)!), tables.look);
    };
    for (const rook of ['8/8/8/4k3/8/8/8/4K2R w', '8/8/8/4k3/8/8/8/4K2R b']) {
      const { plies } = readValue(valueOf(chess.start(`${rook} - - 0 1`), tables.look)!) as {
        plies: number;
      };
      expect(isLate(rook, 100 - plies)).toBe(false);
      expect(isLate(rook, 101 - plies)).toBe(true);
    }
    // a pawn that can move begins the count anew
    expect(isLate('8/7P/8/8/8/k7/8/2K5 w', 99)).toBe(false);
    expect(isLate('8/4k3/8/8/8/8/8/1K3R2 b', 99)).toBe(true);
    // and a draw is one
    expect(isLate('8/8/8/4k3/8/8/8/4KB2 w', 99)).toBe(false);
    tables.close();
  });
});

describe('whole sets of three pieces, solved a second time', { timeout: 120_000 }, () => {
  const slow = new Map<Third, Int16Array>();
  const solved = (third: Third): Int16Array => {
    const known = slow.get(third);
    if (known) return known;
    const promoted = third === 'P' ? { Q: solved('Q'), R: solved('R') } : {};
    const values = slowEnding(third, promoted);
    slow.set(third, values);
    return values;
  };

  it.each(['Q', 'R', 'B', 'N', 'P'] as const)('K%sK agrees in every position', (third) => {
    const tables = new EndingFiles(folder);
    const values = solved(third);
    let compared = 0;
    const wrong: string[] = [];
    for (const side of [0, 1] as const)
      for (let white = 0; white < 64; white++)
        for (let black = 0; black < 64; black++)
          for (let at = 0; at < 64; at++) {
            const value = values[slowNumber(side, white, black, at)]!;
            if (value === NONE) continue;
            compared++;
            const men = [{ side: 0 as const, piece: third, square: at }];
            const found = tables.look(placeOf([white, black], men, side));
            if (found !== value) wrong.push(`${side} ${white} ${black} ${at}: ${found}, ${value}`);
          }
    tables.close();
    expect(wrong.slice(0, 5)).toEqual([]);
    expect(compared).toBeGreaterThan(third === 'P' ? 300_000 : 360_000);
  });

  it('is won along best play a ply at a time, from anywhere', () => {
    const tables = new EndingFiles(folder);
    const random = randomSource(29);
    const draw = (): number => Math.floor(64 * random());
    for (const third of ['Q', 'R', 'P'] as const) {
      const values = solved(third);
      for (let walk = 0; walk < 40; walk++) {
        let [white, black, at] = [0, 0, 0];
        do [white, black, at] = [draw(), draw(), draw()];
        while (values[slowNumber(0, white, black, at)]! <= 0);
        const squares = Array.from({ length: 64 }, () => '1');
        const put = (square: number, letter: string): void => {
          squares[(7 - (square >> 3)) * 8 + (square & 7)] = letter;
        };
        put(white, 'K');
        put(black, 'k');
        put(at, third);
        const board = Array.from({ length: 8 }, (_, row) =>
          squares.slice(8 * row, 8 * row + 8).join(''),
        );
        let position = chess.start(`${board.join('/')} w - - 0 1`);
        let value = valueOf(position, tables.look)!;
        while (value > 1) {
          const [best] = movesOf(position, tables.look)!;
          position = chess.play(position, best!.move);
          expect(best!.behind).toBe(value - 1);
          value = best!.behind;
        }
        expect(chess.status(position, [])).toMatchObject({ state: 'over', result: '1-0' });
      }
    }
    tables.close();
  });
});

describe('one position', () => {
  // two pawns that stand in each other's way, and may be won
  const text = '8/8/4k3/4p3/4P3/4K3/8/8 w - - 0 1';
  const position = chess.start(text);
  const place = placeIn(position) as Place;
  const running = {
    folder,
    threads: 2,
    onProgress: () => undefined,
    signal: new AbortController().signal,
  };
  const reach = async () => (await reachOf([place.slice], folder, 2))!;
  const worth = (): number | null => {
    const tables = new EndingFiles(folder);
    try {
      return valueOf(position, tables.look);
    } finally {
      tables.close();
    }
  };
  const path = endingFile(folder, place.slice.key);

  it('is solved with no more than can be reached from it, which stays', async () => {
    expect(worth()).toBeNull();
    expect((await reach()).slices.map(({ key }) => key)).toEqual([place.slice.key]);
    expect((await reach()).positions).toBe(2 * 4096);
    await proveSlices(FILES, await reach(), running);
    expect(await reach()).toMatchObject({ slices: [], positions: 0 });
    // the kings keep each other out
    expect(worth()).toBe(0);
    const tables = new EndingFiles(folder);
    // who first comes beside both pawns from behind wins
    for (const [fen, result] of [
      ['8/8/8/2K1p3/4P1k1/8/8/8 w - - 0 1', 'win'],
      ['8/8/8/2K1p3/4P1k1/8/8/8 b - - 0 1', 'win'],
    ] as const)
      expect([fen, readValue(valueOf(chess.start(fen), tables.look)!).result]).toEqual([
        fen,
        result,
      ]);
    // each position is worth what its best move is
    let checked = 0;
    for (let white = 0; white < 64; white++)
      for (let black = 0; black < 64; black += 5) {
        const now = standing(white, black);
        const moves = now && movesOf(now, tables.look);
        if (!moves || moves.length === 0) continue;
        const { behind } = moves[0]!;
        expect(valueOf(now, tables.look)).toBe(behind === 0 ? 0 : behind + 1);
        checked++;
      }
    expect(checked).toBeGreaterThan(500);
    tables.close();
  });

  it('is solved anew where its file is damaged, and never wrong', async () => {
    const bytes = readFileSync(path);
    bytes[bytes.indexOf(10) + 3]! ^= 255;
    writeFileSync(path, bytes);
    expect(() => worth()).toThrow(DamagedEnding);
    writeFileSync(path, 'nothing at all');
    expect((await reach()).slices).toHaveLength(1);
    await proveSlices(FILES, await reach(), running);
    expect(worth()).toBe(0);
  });

  /** The kings on squares beside the pawns; null where they can't stand so. */
  function standing(white: number, black: number): ChessPosition | null {
    const squares = Array.from({ length: 64 }, () => '1');
    squares[28] = 'P';
    squares[36] = 'p';
    squares[white] = 'K';
    squares[black] = 'k';
    const rows = Array.from({ length: 8 }, (_, row) =>
      squares.slice(8 * (7 - row), 8 * (8 - row)).join(''),
    );
    try {
      return chess.start(`${rows.join('/')} w - - 0 1`);
    } catch (error) {
      if (error instanceof PositionError) return null;
      throw error;
    }
  }
});

describe('what tables of endings know', () => {
  const [reading] = [
    ...readGames(
      `[Result "1/2-1/2"]
[SetUp "1"]
[FEN "4k3/8/4K3/4P3/8/8/8/8 w - - 0 1"]

1. Kf5 Kf7 2. e6+ Kf8 3. Kf6 Ke8 1/2-1/2
`,
      'pgn',
    ),
  ];
  if (!reading || !isRead(reading)) throw new Error('no game');
  const game = reading.record;
  const tables = new EndingFiles(folder);
  afterAll(() => tables.close());

  it('stands above what an engine says, and is never searched', async () => {
    const asked: Question[] = [];
    // an engine that thinks White lost: only how far one would see is asked of it
    const engine: Ask = async (question) => {
      asked.push(question);
      const position = chess.start(question.root.position);
      const moves = chess.moves(position).map((move) => chess.code(move));
      return {
        depth: question.budget.depth ?? 8,
        nodes: 1,
        milliseconds: 1,
        lines: [{ score: mateScore(2, 1), moves: [moves[0]!] }],
      };
    };
    const evaluations = (
      await sweepGame(game, { average: { nodes: 100_000 } })(
        exactFirst(engine, tables.look),
        () => undefined,
      )
    ).evaluations();
    expect(asked.every(({ plain }) => plain === true)).toBe(true);
    const { findings } = findingsFrom(game, evaluations);
    // White lets a win go, then Black the draw; nothing else costs anything, however long the mate takes
    const said = findings.moves.map(
      (move) => move && [move.ply, Math.round(move.loss), move.verdict],
    );
    expect(said[0]).toEqual([1, 50, 'blunder']);
    expect(said[3]).toEqual([4, 50, 'blunder']);
    expect(said.map((one) => one![1])).toEqual([50, 0, 0, 50, 0, 0]);
    expect(findings.moves[0]).toMatchObject({ isTurningPoint: true, isUnsettled: false });
    expect(findings.course.map((value) => value!.origin.by)).toEqual(
      findings.course.map(() => 'tables'),
    );
    expect(findings.course.map((value) => value!.chance)).toEqual([100, 50, 50, 50, 100, 100, 100]);
    expect(figuresOf(findings).depth).toBe(null);
    // what keeps the win is the better line
    expect(['e6f6', 'e6d6']).toContain(findings.moves[0]!.betterLine[0]);
  });

  it('answers for the moves that are asked about, the best first, and for nothing else', () => {
    const position = '4k3/8/4K3/4P3/8/8/8/8 w - - 0 1';
    const root = chess.searchRoot(chess.start(position), []);
    const question = { kind: 'chess' as const, root, budget: { nodes: 1 }, lines: 3, fresh: true };
    const answer = exactAnswer(question, tables.look)!;
    expect(answer.depth).toBe(EXACT_DEPTH);
    expect(answer.lines).toHaveLength(3);
    const [best, second, third] = answer.lines;
    expect(best!.score).toMatchObject({ kind: 'mate', winner: 0 });
    expect(second!.score).toMatchObject({ kind: 'mate', winner: 0 });
    expect(third!.score).toEqual(cpScore(0));
    expect(best!.moves).toHaveLength(6);
    const only = exactAnswer({ ...question, only: ['e6f5'], lines: 1 }, tables.look)!;
    expect(only.lines.map(({ moves }) => moves[0])).toEqual(['e6f5']);
    expect(exactAnswer({ ...question, plain: true }, tables.look)).toBeNull();
    const start = chess.searchRoot(chess.start(), []);
    expect(exactAnswer({ ...question, root: start }, tables.look)).toBeNull();
    expect(
      exactAnswer(
        { ...question, kind: 'shogi', root: shogi.searchRoot(shogi.start(), []) },
        tables.look,
      ),
    ).toBeNull();
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
    known.set(slice.key, solver.solve(slice, known));
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

  it('are foretold by lines that lead to fewer pieces, and never wrongly', () => {
    const random = randomSource(17);
    const fewer: Look = (place) => (place.slice.men.length > 1 ? null : look(place));
    const found = { win: 0, draw: 0, loss: 0 };
    let further = 0;
    for (const key of [...known.keys()].filter((name) => name.split(' ')[0]!.length === 4)) {
      const [slice] = slicesOf(key.split(' ')[0]!).filter((one) => one.key === key);
      for (let tried = 0; tried < 20; tried++) {
        let position: ChessPosition;
        try {
          position = chess.start(drawn(slice!, random));
        } catch {
          continue;
        }
        const forced = forcedValue(position, fewer, 500);
        if (!forced) continue;
        const [said, exact] = [readValue(forced.value), readValue(valueOf(position, look)!)];
        expect([chess.write(position), said.result]).toEqual([chess.write(position), exact.result]);
        if (said.result !== 'draw' && exact.result !== 'draw')
          expect(said.plies).toBeGreaterThanOrEqual(exact.plies);
        const end = forced.line.reduce((now, move) => chess.play(now, move), position);
        expect(valueOf(end, fewer) !== null || chess.moves(end).length === 0).toBe(true);
        found[said.result]++;
        if (forced.line.length > 1) further++;
      }
    }
    expect(Math.min(found.win, found.draw, found.loss, further)).toBeGreaterThan(5);
    // what is out of reach costs no more than is allowed
    expect(forcedValue(chess.start(), fewer, 50)).toBeNull();
  });

  it('answer for positions from which a line leads to them', () => {
    // the pawn is taken, and a rook against nothing wins
    const position = '8/8/8/8/3k4/8/p7/KR6 w - - 0 1';
    const asked: Question = {
      ...{ kind: 'chess', budget: { nodes: 1000 }, lines: 1, fresh: true },
      root: { position, moveCount: 0, repeated: [] },
    };
    const fewer: Look = (place) => (place.slice.men.length > 1 ? null : look(place));
    const answer = exactAnswer(asked, fewer)!;
    expect(answer).toMatchObject({ depth: EXACT_DEPTH, lines: [{ moves: ['a1a2'] }] });
    expect(answer.lines[0]!.score).toMatchObject({ kind: 'mate', winner: 0 });
    // where several are compared, or some are asked about, the search is
    expect(exactAnswer({ ...asked, lines: 2 }, fewer)).toBeNull();
    expect(exactAnswer({ ...asked, only: ['b1b2'] }, fewer)).toBeNull();
    expect(exactAnswer({ ...asked, plain: true }, fewer)).toBeNull();
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
