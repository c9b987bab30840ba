import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chess } from './chess/ruleset';
import { NULL_MOVE, type Move } from './game/move';
import {
  GAME_KINDS,
  PositionError,
  type GameKind,
  type Ruleset,
  type Position,
} from './game/ruleset';
import { SQUARES } from './shogi/board-geometry';
import { readSfen } from './shogi/sfen';
import { readFen, writeFen } from './chess/fen';
import { writeJapanese } from './shogi/japanese';
import { nearbyMoves } from './game/nearby';
import { readMoveText } from './game/read-moves';
import { readSan } from './chess/san';
import { kindOfPosition, rulesetOf } from './rulesets';
import type { ShogiPosition } from './shogi/position';
import { shogi } from './shogi/ruleset';

const japanese = (position: Position, move: Move): string =>
  writeJapanese(position as unknown as ShogiPosition, move, -1);

const codeOf = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    if (error instanceof PositionError) return error.code;
    throw error;
  }
  return 'accepted';
};

describe('FEN that can not be', () => {
  it.each([
    ['8/8/8/8/8/8/8/K6k w -', 'fen.fields'],
    ['8/8/8/8/8/8/8/K6k w - - 0 1 2', 'fen.fields'],
    ['8/8/8/8/8/8/K6k w - - 0 1', 'fen.rows'],
    ['8/8/8/8/8/8/8/K5k w - - 0 1', 'fen.rowLength'],
    ['8/8/8/8/8/8/8/K7k w - - 0 1', 'fen.rowLength'],
    ['8/8/8/8/8/8/8/K5xk w - - 0 1', 'fen.letter'],
    ['8/8/8/8/8/8/8/K6k x - - 0 1', 'fen.side'],
    ['8/8/8/8/8/8/8/K6k w Z - 0 1', 'fen.castling'],
    ['8/8/8/8/8/8/8/K6k w - e9 0 1', 'fen.enPassant'],
    ['8/8/8/8/8/8/8/K6k w - e3 0 1', 'position.enPassant'],
    ['8/8/8/8/8/8/8/K6k w - - x 1', 'fen.halfmoves'],
    ['8/8/8/8/8/8/8/7k w - - 0 1', 'position.noKing'],
    ['8/8/8/8/8/8/8/KK5k w - - 0 1', 'position.manyKings'],
    ['P7/8/8/8/8/8/8/K6k w - - 0 1', 'position.pawnRank'],
    ['8/8/8/8/8/8/8/KR5k w - - 0 1', 'position.idleInCheck'],
    ['8/8/8/8/8/8/8/4K2k w K - 0 1', 'position.castlingRight'],
    ['4k3/8/8/8/8/8/8/1R2K1R1 w KQ - 0 1', 'position.shuffled'],
    ['rk2r3/8/8/8/8/8/8/RK2R3 w EAea - 0 1', 'position.shuffled'],
    ['4k3/8/8/8/8/8/8/R2K4 w Q - 0 1', 'position.shuffled'],
    ['4k3/8/8/8/8/8/8/3K3R w K - 0 1', 'position.shuffled'],
  ])('%s: %s', (text, code) => {
    expect(codeOf(() => readFen(text))).toBe(code);
  });
  it('a count that is not told is none', () => {
    expect(writeFen(readFen('8/8/8/8/8/8/8/K6k w - - - -'))).toBe('8/8/8/8/8/8/8/K6k w - - 0 1');
  });
  it('four fields will do', () => {
    expect(writeFen(readFen('8/8/8/8/8/8/8/K6k b - -'))).toBe('8/8/8/8/8/8/8/K6k b - - 0 1');
  });
});

it('repetitions that end a game: three in chess, four in shogi', () => {
  expect([chess.repetitions, shogi.repetitions]).toEqual([3, 4]);
});

it('a shogi board has its squares once each', () => {
  expect(new Set(SQUARES).size).toBe(81);
  expect(SQUARES).toHaveLength(81);
});

describe('SFEN that can not be', () => {
  const rest = '9/9/9/9/9/9/9/4K4';
  it.each([
    [`4k4/${rest}`, 'sfen.fields'],
    [`4k4/${rest} b`, 'sfen.fields'],
    [`4k4/${rest} b - 1 2`, 'sfen.fields'],
    [`${rest} b - 1`, 'sfen.rows'],
    [`4k4/9/${rest} b - 1`, 'sfen.rows'],
    [`4k3/${rest} b - 1`, 'sfen.rowLength'],
    [`4k5/${rest} b - 1`, 'sfen.rowLength'],
    [`4k4G/${rest} b - 1`, 'sfen.rowLength'],
    // a promotion of nothing, which ends the row or stands before a number
    [`4k4+/${rest} b - 1`, 'sfen.rowLength'],
    [`4k+4/${rest} b - 1`, 'sfen.letter'],
    [`4k3x/${rest} b - 1`, 'sfen.letter'],
    [`4k3+G/${rest} b - 1`, 'sfen.letter'],
    [`4+k4/${rest} b - 1`, 'sfen.letter'],
    [`4k4/${rest} x - 1`, 'sfen.side'],
    [`4k4/${rest} b K 1`, 'sfen.hands'],
    [`4k4/${rest} b 100P 1`, 'sfen.hands'],
    [`4k4/${rest} b - x`, 'sfen.ply'],
    [`4k4/${rest} b - 100000`, 'sfen.ply'],
    [`4k3P/${rest} b - 1`, 'position.deadPiece'],
    ['4k4/N8/9/9/9/9/9/9/4K4 b - 1', 'position.deadPiece'],
    ['4k4/9/P8/P8/9/9/9/9/4K4 b - 1', 'position.nifu'],
    [`4k4/${rest} b 19P 1`, 'position.tooMany'],
    [`4k4/${rest} b 3R 1`, 'position.tooMany'],
    ['9/9/9/9/9/9/9/9/9 b - 1', 'position.noKings'],
    [`3kk4/${rest} b - 1`, 'position.manyKings'],
    ['4k4/4R4/9/9/9/9/9/9/4K4 b - 1', 'position.idleInCheck'],
  ])('%s: %s', (text, code) => {
    expect(codeOf(() => readSfen(text))).toBe(code);
  });
  it.each([
    [`4k3+P/${rest} b 18P 1`, 'position.tooMany'],
    [`4k3+P/${rest} b 17P 1`, 'accepted'],
    ['4k4/9/P8/+P8/9/9/9/9/4K4 b - 1', 'accepted'],
    [`4k4/${rest} b -`, 'accepted'],
    [`4k4/${rest} w 2R2B4G4S4N4L18P 99999`, 'accepted'],
  ])('%s: %s', (text, code) => {
    expect(codeOf(() => readSfen(text))).toBe(code);
  });
});

/** Positions of a random line, the start first. */
function walk<P>(ruleset: Ruleset<P>, choices: readonly number[]): P[] {
  const positions = [ruleset.start()];
  for (const choice of choices) {
    const moves = ruleset.moves(positions.at(-1)!);
    if (moves.length === 0) break;
    positions.push(ruleset.play(positions.at(-1)!, moves[choice % moves.length]!));
  }
  return positions;
}

const line = fc.array(fc.nat(), { minLength: 30, maxLength: 120, size: 'max' });

describe.each(GAME_KINDS)('%s positions along random games', (kind: GameKind) => {
  const ruleset = rulesetOf(kind);
  it('survive as text, with the same key and moves', () => {
    fc.assert(
      fc.property(line, (choices) => {
        const position = walk(ruleset, choices).at(-1)!;
        const again = ruleset.start(ruleset.write(position));
        expect(ruleset.write(again)).toBe(ruleset.write(position));
        expect(ruleset.key(again)).toBe(ruleset.key(position));
        expect(ruleset.moves(again)).toEqual(ruleset.moves(position));
        expect(kindOfPosition(ruleset.write(position))).toBe(kind);
      }),
      { numRuns: 80 },
    );
  });
  it('keys tell positions apart exactly as their text does', () => {
    const bare = (position: Position): string => {
      const fields = ruleset.write(position).split(' ');
      if (kind === 'shogi') return fields.slice(0, 3).join(' ');
      const legal = writeFen(position as never, { enPassant: 'legal' });
      return legal.split(' ').slice(0, 4).join(' ');
    };
    const byKey = new Map<bigint, string>();
    const byText = new Map<string, bigint>();
    fc.assert(
      fc.property(line, (choices) => {
        for (const position of walk(ruleset, choices)) {
          const [key, text] = [ruleset.key(position), bare(position)];
          expect(byKey.get(key) ?? text).toBe(text);
          expect(byText.get(text) ?? key).toBe(key);
          byKey.set(key, text);
          byText.set(text, key);
        }
      }),
      { numRuns: 80 },
    );
    expect(byKey.size).toBeGreaterThan(2000);
  });
  it('no two legal moves have the same text, and each text is read as its move', () => {
    fc.assert(
      fc.property(line, (choices) => {
        const position = walk(ruleset, choices).at(-1)!;
        const moves = ruleset.moves(position);
        const texts = moves.map((move) => ruleset.text(position, move));
        expect(new Set(texts).size).toBe(moves.length);
        for (const [index, text] of texts.entries()) {
          expect(readMoveText(ruleset, position, text)).toEqual({ move: moves[index] });
          // a code that declines a promotion is what the other one is but for a sign
          const code = ruleset.code(moves[index]!);
          expect(readMoveText(ruleset, position, code)).toEqual(
            text.endsWith('=')
              ? { problem: 'ambiguous', nearby: [text.replace(/=$/, '+'), text] }
              : { move: moves[index] },
          );
          expect(ruleset.parseCode(ruleset.code(moves[index]!))).toBe(moves[index]);
          if (kind === 'shogi')
            expect(readMoveText(ruleset, position, japanese(position, moves[index]!))).toEqual({
              move: moves[index],
            });
        }
      }),
      { numRuns: 60 },
    );
  });
  it('playing leaves the position before as it was', () => {
    fc.assert(
      fc.property(line, (choices) => {
        const position = walk(ruleset, choices).at(-1)!;
        const before = ruleset.write(position);
        for (const move of ruleset.moves(position)) ruleset.play(position, move);
        if (!ruleset.inCheck(position)) {
          const passed = ruleset.play(position, NULL_MOVE);
          expect(ruleset.side(passed)).not.toBe(ruleset.side(position));
        }
        expect(ruleset.write(position)).toBe(before);
      }),
      { numRuns: 40 },
    );
  });
  it('what is written unclearly is answered with legal moves', () => {
    const position = ruleset.start();
    for (const text of ['zz', 'Kd5', '', '9z9z', 'P*5e', 'O-O']) {
      const reading = readMoveText(ruleset, position, text);
      expect('problem' in reading).toBe(true);
      for (const text of 'nearby' in reading ? reading.nearby : [])
        expect('move' in readMoveText(ruleset, position, text)).toBe(true);
    }
    expect(nearbyMoves(ruleset, position, kind === 'chess' ? 'Nf4' : 'P-7e')).not.toHaveLength(0);
  });
});

describe('what a search starts from', () => {
  it('is the same for positions reached in different ways, and for any move number', () => {
    const along = (codes: string[]) => {
      const positions = [chess.start()];
      for (const code of codes)
        positions.push(chess.play(positions.at(-1)!, chess.parseCode(code)!));
      return chess.searchRoot(positions.at(-1)!, positions.slice(0, -1));
    };
    expect(along(['g1f3', 'g8f6', 'b1c3'])).toEqual(along(['b1c3', 'g8f6', 'g1f3']));
    const back = along(['g1f3', 'g8f6', 'f3g1', 'f6g8']);
    expect(back.position).toBe(along([]).position);
    expect(back.repeated).toEqual([{ position: along([]).position, checker: null }]);
    const late = chess.start('4k3/8/8/8/8/8/4P3/4K3 w - - 59 80');
    const early = chess.start('4k3/8/8/8/8/8/4P3/4K3 w - - 3 9');
    expect(chess.searchRoot(late, [])).toEqual(chess.searchRoot(early, []));
    const near = chess.start('4k3/8/8/8/8/8/4P3/4K3 w - - 60 80');
    expect(chess.searchRoot(near, []).moveCount).toBe(60);
  });
  it('holds who has been giving check all the while', () => {
    const positions = [shogi.start('9/9/9/9/9/2K3pS1/6P2/2R5N/8k b - 1')];
    for (const code of ['7h7i', '1i2h', '7i7h', '2h1i', '7h7i', '1i2h', '7i7h', '2h1i'])
      positions.push(shogi.play(positions.at(-1)!, shogi.parseCode(code)!));
    const root = shogi.searchRoot(positions.at(-1)!, positions.slice(0, -1));
    expect(root.repeated).toEqual([{ position: '9/9/9/9/9/2K3pS1/6P2/2R5N/8k b - 1', checker: 0 }]);
  });
});

describe('claims', () => {
  it('declarations count the points of a handicap that was given', () => {
    // White gave rook and bishop and has entered: 10 points more are credited to it
    const start = shogi.start('lnsgkgsnl/9/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL w - 1');
    const entered = shogi.start('9/4K4/9/9/9/9/ggggssss1/4k4/+p+p7 w 7p 90');
    const ongoing = (...rules: object[]) => ({ state: 'ongoing', claims: rules });
    expect(shogi.status(entered, [])).toEqual(ongoing());
    expect(shogi.status(entered, [start])).toEqual(
      ongoing(
        { claim: 'declaration', rule: 27, result: 'win' },
        { claim: 'declaration', rule: 24, result: 'draw' },
      ),
    );
  });
  it('stalemate draws in chess and loses in shogi', () => {
    expect(chess.status(chess.start('7k/5Q2/6K1/8/8/8/8/8 b - - 0 1'), [])).toMatchObject({
      end: 'stalemate',
      result: '1/2-1/2',
    });
    const bare = shogi.start('k8/2+R6/1+R7/9/9/9/9/9/8K w - 1');
    expect(shogi.status(bare, [])).toMatchObject({ state: 'over', result: '1-0' });
  });
  it('castling with zeros and letters, long and short', () => {
    const position = readFen('r3k2r/8/8/8/8/8/8/R3K2R w KQkq - 0 1');
    for (const text of ['O-O', '0-0', 'o-o', 'OO', 'Kg1', 'e1g1', 'Ke1-g1'])
      expect(readSan(position, text)).toEqual({ move: chess.parseCode('e1g1') });
    for (const text of ['O-O-O', '0-0-0', 'Kc1'])
      expect(readSan(position, text)).toEqual({ move: chess.parseCode('e1c1') });
  });
});
