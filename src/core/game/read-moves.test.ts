import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';
import { readMoveList, readMoveText } from './read-moves';

const chess = rulesetOf('chess');
const shogi = rulesetOf('shogi');

describe('a list of moves as somebody pastes it', () => {
  const read = (text: string) =>
    readMoveList(chess, chess.start(), text)?.map((move) => chess.code(move)) ?? null;

  it('is read with or without numbers and a result', () => {
    expect(read('1. e4 e5 2.Nf3 Nc6 1-0')).toEqual(['e2e4', 'e7e5', 'g1f3', 'b8c6']);
    expect(read('e2e4 1... e5')).toEqual(['e2e4', 'e7e5']);
    expect(read('1. e4 1… e5 2. Nf3')).toEqual(['e2e4', 'e7e5', 'g1f3']);
  });

  it('knows a pawn’s capture by its files, promoting where it ends', () => {
    const last = chess.start('4n3/3P4/8/8/8/7k/8/K7 w - - 0 1');
    for (const [text, code] of [
      ['de', 'd7e8q'],
      ['dxe', 'd7e8q'],
      ['dxe=N', 'd7e8n'],
    ] as const)
      expect(readMoveList(chess, last, text)?.map((move) => chess.code(move))).toEqual([code]);
  });

  it('promotes to a queen where it does not say to what', () => {
    const last = chess.start('8/4P3/8/8/8/7k/8/K7 w - - 0 1');
    for (const [text, code] of [
      ['e7e8', 'e7e8q'],
      ['e7-e8', 'e7e8q'],
      ['e8', 'e7e8q'],
      ['e7e8n', 'e7e8n'],
    ] as const)
      expect(readMoveList(chess, last, text)?.map((move) => chess.code(move))).toEqual([code]);
  });

  it('is none where a move is not legal or nothing is there', () => {
    expect(read('1. e4 e4')).toBeNull();
    expect(read('hello world')).toBeNull();
    expect(read('1-0')).toBeNull();
  });

  it('is read in shogi by USI or western notation', () => {
    const moves = readMoveList(shogi, shogi.start(), '7g7f P-3d 8h2b+ Sx2b B*5e');
    expect(moves?.map((move) => shogi.code(move))).toEqual([
      '7g7f',
      '3c3d',
      '8h2b+',
      '3a2b',
      'B*5e',
    ]);
  });

  it('is read in Japanese, with or without signs and spaces', () => {
    const codes = ['7g7f', '3c3d', '8h2b+', '3a2b', 'B*5e'];
    for (const text of [
      '７六歩 ３四歩 ２二角成 同銀 ５五角打',
      '76歩 34歩 22角成 同　銀 55角',
      '▲７六歩△３四歩▲２二角成△同　銀▲５五角',
    ])
      expect(readMoveList(shogi, shogi.start(), text)?.map((move) => shogi.code(move))).toEqual(
        codes,
      );
  });
});

describe('a shogi move that could promote', () => {
  const sfen = '4k4/7r1/9/7R1/9/9/9/9/4K4 b - 1';
  const read = (text: string) => {
    const reading = readMoveText(shogi, shogi.start(sfen), text);
    return 'move' in reading ? shogi.code(reading.move) : reading;
  };

  it.each(['Rx2b', 'r2b', '2d2b'])('is asked about where it does not say so: %s', (text) => {
    expect(read(text)).toEqual({ problem: 'ambiguous', nearby: ['Rx2b+', 'Rx2b='] });
  });
  it.each(['22飛', '２二飛'])('likewise in Japanese: %s', (text) => {
    expect(read(text)).toEqual({ problem: 'ambiguous', nearby: ['２二飛成', '２二飛不成'] });
  });
  it.each([
    ['Rx2b+', '2d2b+'],
    ['Rx2b=', '2d2b'],
    ['2d2b+', '2d2b+'],
    ['22飛成', '2d2b+'],
    ['22飛不成', '2d2b'],
    ['R2g', '2d2g'],
  ])('and played where it does: %s', (text, code) => {
    expect(read(text)).toBe(code);
  });
  it('declines in a list of moves, as notation has it', () => {
    const moves = readMoveList(shogi, shogi.start(sfen), '2d2b');
    expect(moves?.map((move) => shogi.code(move))).toEqual(['2d2b']);
  });
  it('that fits several pieces is answered with those alone', () => {
    const free = 'k8/9/9/4R4/9/9/9/9/3GKG3 b - 1';
    expect(readMoveText(shogi, shogi.start(free), 'G-5h')).toEqual({
      problem: 'ambiguous',
      nearby: ['G4i-5h', 'G6i-5h'],
    });
  });
});

describe('a Japanese move', () => {
  const read = (position: string, text: string, previous: string | null = null) => {
    const reading = readMoveText(
      shogi,
      shogi.start(position),
      text,
      previous === null ? null : shogi.parseCode(previous),
    );
    return 'move' in reading ? shogi.code(reading.move) : reading;
  };
  // two golds that may go to 5h, and one in hand
  const GOLDS = '4k4/9/9/9/9/9/9/9/3GKG3 b G 1';

  it('says which of several pieces, or is answered with those it may mean', () => {
    expect(read(GOLDS, '58金右')).toBe('4i5h');
    expect(read(GOLDS, '５八金左')).toBe('6i5h');
    expect(read(GOLDS, '58金打')).toBe('G*5h');
    expect(read(GOLDS, '58金')).toEqual({
      problem: 'ambiguous',
      nearby: ['５八金右', '５八金左'],
    });
  });

  it('that is not legal is answered with what may go there', () => {
    expect(read(GOLDS, '58銀')).toEqual({
      problem: 'illegal',
      nearby: ['５八金右', '５八玉', '５八金左', '５八金打'],
    });
  });

  it('goes where the move before went, if there was one', () => {
    const taken = '4k4/9/9/9/9/9/5p3/9/3GKGN2 b - 1';
    expect(read(taken, '同桂')).toMatchObject({ problem: 'illegal' });
    expect(read('4k4/9/9/9/9/5p3/9/9/4K1N2 b - 1', '同桂', '4e4f')).toMatchObject({
      problem: 'illegal',
    });
    expect(read('4k4/9/9/9/9/9/5p3/9/4K1N2 b - 1', '同　桂', '4f4g')).toBe('3i4g');
  });
});
