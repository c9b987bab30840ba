import { describe, expect, it } from 'vitest';
import type { Problem } from '../game/problem';
import type { GameRecord } from '../game/record';
import { mainLine, nodesInOrder, ROOT } from '../game/tree';
import { writeUci } from '../chess/uci';
import { readGames, writeGame } from './formats';
import { PgnSplitter } from './pgn/split-pgn';
import { isRead, type Reading } from './reading';

const read = (text: string): Reading[] => [...readGames(text, 'pgn')];
const records = (text: string): GameRecord[] =>
  read(text)
    .filter(isRead)
    .map(({ record }) => record);
const problems = (text: string): Problem[] =>
  read(text).flatMap((reading) => (isRead(reading) ? [] : [reading.problem]));
const moves = (text: string): string => {
  const [record] = records(text);
  return record
    ? mainLine(record.tree)
        .map(({ move }) => writeUci(move))
        .join(' ')
    : 'none';
};

describe('what stands between the moves', () => {
  const read = (text: string) => [...readGames(text, 'pgn')][0]!;
  const comment = (body: string): string | undefined => {
    const reading = read(`1. e4 {${body}} *\n`);
    return isRead(reading) ? mainLine(reading.record.tree)[0]!.comment : undefined;
  };

  it.each([
    ['one\ntwo', 'one two'],
    ['one\n\ntwo', 'one\ntwo'],
    ['one\n\n\n \t\ntwo', 'one\ntwo'],
    ['\n\none\r\n\r\ntwo\n\n', 'one\ntwo'],
  ])('paragraphs of a comment are kept, and nothing else of its lines: %j', (body, words) => {
    expect(comment(body)).toBe(words);
  });

  it.each(['\n', '\r\n', '\r'])('a line of another program is passed over after %j', (end) => {
    const reading = read(`1. e4${end}% 1. d4 {unclosed${end}e5 *${end}`);
    expect(isRead(reading) && mainLine(reading.record.tree)).toHaveLength(2);
  });

  it('a percent sign elsewhere is none of them', () => {
    expect(isRead(read('1. e4 % e5 *\n'))).toBe(false);
  });
});

describe('PGN as it is found', () => {
  it.each([
    ['zeros for castling', '1. e4 e5 2. Nf3 Nc6 3. Bc4 Bc5 4. 0-0', 'e1g1'],
    ['missing check sign', '1. e4 f6 2. Qh5', 'd1h5'],
    ['extra signs', '1. e4+ e5# 2. Nf3!?', 'g1f3'],
    ['long algebraic', '1. e2-e4 e7-e5 2. Ng1-f3', 'g1f3'],
    ['coordinates', '1. e2e4 e7e5 2. g1f3', 'g1f3'],
    ['too much said', '1. e4 e5 2. Ngf3', 'g1f3'],
    ['figurines', '1. e4 e5 2. ♘f3', 'g1f3'],
    ['short pawn capture', '1. e4 d5 2. ed', 'e4d5'],
    ['short capture with x', '1. e4 d5 2. exd', 'e4d5'],
    ['en passant said', '1. e4 a6 2. e5 d5 3. exd6 e.p.', 'e5d6'],
    ['no numbers', 'e4 e5 Nf3', 'g1f3'],
    ['dots apart', '1 . e4 1 ... e5 2. ... Nf3', 'g1f3'],
    ['numbers that stick', '1.e4 e5 2.Nf3', 'g1f3'],
    ['long numbers', '1. e4 12345. e5 100.Nf3', 'g1f3'],
    ['numbers with an ellipsis of one sign', '1. e4 1… e5 2…Nf3', 'g1f3'],
  ])('%s', (_, text, last) => {
    expect(moves(text).split(' ').at(-1)).toBe(last);
  });

  it.each(['e8Q', 'e8=Q', 'e8(Q)', 'e8=Q+', 'e8/Q'])('promotion written %s', (text) => {
    const game = `[FEN "8/4P2k/8/8/8/8/8/K7 w - - 0 1"]\n\n1. ${text}`;
    expect(moves(game)).toBe('e7e8q');
  });

  it.each([
    ['e4!', [1]],
    ['e4?', [2]],
    ['e4!!', [3]],
    ['e4??', [4]],
    ['e4!?', [5]],
    ['e4?!', [6]],
    ['e4□', [7]],
    ['e4!?!', undefined],
    ['e4', undefined],
  ])('signs at a move: %s', (text, symbols) => {
    expect(mainLine(records(`1. ${text} *`)[0]!.tree)[0]!.symbols).toEqual(symbols);
  });

  it('a line of its own after % opens nothing, in whichever game of a file', () => {
    const file = '[Event "a"]\n\n1. e4\n% { an escape\ne5 *\n\n[Event "b"]\n\n1. d4 *\n';
    expect(records(file).map(({ tree }) => mainLine(tree).length)).toEqual([2, 1]);
  });

  it('null moves are kept', () => {
    expect(moves('1. e4 -- 2. d4 Z0')).toBe('e2e4 0000 d2d4 0000');
  });

  it('tags in any order, several on a line, escaped, without a roster', () => {
    const [record] = records('[Black "B"] [White "A \\"x\\" \\\\"]\n[Foo "1"]\n\n1. e4 *');
    expect(record!.tags).toEqual([
      { name: 'Black', value: 'B' },
      { name: 'White', value: 'A "x" \\' },
      { name: 'Foo', value: '1' },
    ]);
  });

  it('many games, blank lines inside, comments that look like tags, escape lines', () => {
    const text = `% a remark of another program
[Event "one"]

1. e4 {a ; b
[not a tag]
} e5

2. Nf3 ; rest of the line { no comment
Nc6 1-0
[Event "two"]

1. d4 1/2-1/2

1. c4 0-1
`;
    expect(records(text).map(({ result }) => result)).toEqual(['1-0', '1/2-1/2', '0-1']);
  });

  it('line ends of all kinds, a byte order mark, and pieces cut anywhere read the same', () => {
    const text = '[Event "x"]\n\n1. e4 {a\nb} e5 2. Nf3 1-0\n\n[Event "y"]\n\n1. d4 *\n';
    const expected = records(text).map((record) => writeGame(record, 'pgn'));
    for (const end of ['\r\n', '\r']) {
      const other = records(`\ufeff${text.replaceAll('\n', end)}`);
      expect(other.map((record) => writeGame(record, 'pgn'))).toEqual(expected);
    }
    for (let size = 1; size < 9; size++) {
      const splitter = new PgnSplitter();
      const sections = [];
      for (let i = 0; i < text.length; i += size)
        sections.push(...splitter.push(text.slice(i, i + size)));
      sections.push(...splitter.end());
      expect(sections.map(({ line }) => line)).toEqual([1, 6]);
      expect(sections.map((section) => section.text).join('')).toBe(text);
    }
  });

  it('clocks, evaluations, marks and what others wrote', () => {
    const [record] = records(
      '1. e4 {[%clk 1:02:03.5] [%eval #-3] [%csl Gd4,Re5][%cal Ye2e4] [%foo bar] words}',
    );
    expect(mainLine(record!.tree)[0]).toMatchObject({
      clock: 3_723_500,
      evaluation: { score: { kind: 'mate', plies: 5, winner: 1 } },
      marks: [
        { colour: 'green', square: 27 },
        { colour: 'red', square: 36 },
        { colour: 'yellow', square: 12, to: 28 },
      ],
      extras: ['[%foo bar]'],
      comment: 'words',
    });
  });

  it('words before the game, before and after a move', () => {
    const [record] = records('{first} 1. e4 {after} (1. d4 {x}) ({before} 1. c4) e5');
    const nodes = [...nodesInOrder(record!.tree)];
    expect(record!.tree.nodes.get(ROOT)!.comment).toBe('first');
    expect(nodes.map(({ comment }) => comment).filter(Boolean)).toEqual(['first', 'after', 'x']);
    expect(nodes.map(({ before }) => before).filter(Boolean)).toEqual(['before']);
  });
});

describe('a result tag that the moves contradict', () => {
  const notes = (text: string) =>
    read(text).flatMap((one) => (isRead(one) ? (one.notes ?? []) : []));
  it('is told, with what was kept', () => {
    const [reading] = read('[Event "x"]\n[Result "1-0"]\n\n1. e4 0-1\n');
    expect(reading).toMatchObject({ record: { result: '0-1' } });
    expect(notes('\n[Result "1-0"]\n\n1. e4 0-1\n')).toEqual([
      {
        code: 'pgn.results',
        params: { tag: '1-0', moves: '0-1' },
        place: { line: 2, column: 1, game: 1 },
      },
    ]);
  });
  it.each([
    '[Result "1-0"]\n\n1. e4 1-0',
    '[Result "1-0"]\n\n1. e4 *',
    '[Result "*"]\n\n1. e4 1-0',
    '1. e4 1-0',
  ])('is not seen in %j', (text) => {
    expect(notes(text)).toEqual([]);
  });
});

describe('PGN that is broken', () => {
  it.each([
    ['1. e4 e5 2. Ke3', 'move.illegal', 1, 13],
    ['1. e4 e5\n2. Nd2 Nf9', 'move.illegal', 2, 4],
    ['1. e4 zz', 'move.malformed', 1, 7],
    ['1. e4 {never closed', 'pgn.openComment', 1, 7],
    ['1. e4 (1. d4', 'pgn.openVariation', 1, 13],
    ['1. e4 ) e5', 'pgn.closedTwice', 1, 7],
    ['(1. e4)', 'pgn.variationWithoutMove', 1, 1],
    ['1. e4 $999', 'pgn.nag', 1, 7],
    ['[Event "x]\n\n1. e4', 'pgn.tag', 1, 1],
    ['[Variant "Crazyhouse"]\n\n1. e4', 'pgn.variant', 1, 1],
    ['[FEN "8/8/8/8/8/8/8/8 w - - 0 1"]\n\n*', 'position.noKing', 1, 1],
    [
      '[SetUp "1"]\n[FEN "nrbqkbrn/pppppppp/8/8/8/8/PPPPPPPP/NRBQKBRN w GBgb - 0 1"]\n\n*',
      'position.shuffled',
      2,
      1,
    ],
  ])('%j: %s', (text, code, line, column) => {
    const [problem] = problems(text);
    expect(problem).toMatchObject({ code, place: { line, column, game: 1 } });
  });

  it('names the move, the position and what would be legal', () => {
    const [problem] = problems('1. e4 e5 2. Nf4');
    expect(problem!.params).toMatchObject({ move: 'Nf4', number: '2.' });
    expect(problem!.params.position).toContain('rnbqkbnr/pppp1ppp/8/4p3');
    expect(problem!.params.nearby).toContain('Nf3');
  });

  it('keeps the good games around a bad one', () => {
    const text =
      '[Event "a"]\n\n1. e4 *\n\n[Event "b"]\n\n1. e5 *\n\n[Event "c"]\n\n1. d4 {open\n\n[Event "d"]\n\n1. c4 *\n';
    expect(records(text).map(({ tags }) => tags[0]!.value)).toEqual(['a', 'd']);
    expect(problems(text).map(({ place }) => [place.game, place.line])).toEqual([
      [2, 7],
      [3, 11],
    ]);
  });

  it('a bad game without tags does not take its neighbours along', () => {
    expect(records('1. e4 1-0\n\n1. Ke5 0-1\n\n1. d4 1/2-1/2').map(({ result }) => result)).toEqual(
      ['1-0', '1/2-1/2'],
    );
  });

  it.each([
    ['deep nesting', `1. e4 ${'(1. d4 '.repeat(5000)}`, 'limit.nesting'],
    ['a huge comment', `1. e4 {${'x'.repeat(10_000_000)}}`, 'limit.commentLength'],
    ['too many tags', `${'[A "x"]\n'.repeat(600)}\n1. e4`, 'limit.tags'],
    ['a huge tag', `[A "${'x'.repeat(20_000)}"]\n\n1. e4`, 'limit.tagLength'],
    ['too many moves', `1. e4 ${'(1. d4) '.repeat(60_000)}`, 'limit.nodes'],
  ])('%s is refused', (_, text, code) => {
    expect(problems(text)[0]?.code).toBe(code);
  });

  it('thousands of variations within the limits are read', () => {
    const [record] = records(`1. e4 ${'(1. d4 d5) '.repeat(5000)} e5`);
    expect(record!.tree.nodes.size).toBe(10_003);
  });

  it('random bytes are no game and no crash', () => {
    let state = 1;
    const letters = 'abc{}()[]$;%*"\\\n1.-eNx+# ';
    for (let round = 0; round < 300; round++) {
      let text = '';
      for (let i = 0; i < 200; i++) {
        state = (state * 48_271) % 2_147_483_647;
        text += letters[state % letters.length];
      }
      for (const reading of read(text))
        if (!isRead(reading)) expect(reading.problem.place.line).toBeGreaterThan(0);
    }
  });
});
