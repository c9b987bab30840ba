import { describe, expect, it } from 'vitest';
import { LIMITS, type Problem } from '../game/problem';
import type { GameRecord } from '../game/record';
import { applySteps } from '../game/steps';
import { mainLine, nodesInOrder } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { HANDICAPS } from '../shogi/handicaps';
import { shogi } from '../shogi/ruleset';
import { lossesIn, readGames, writeGame, type Format } from './formats';
import { writeJapanese } from '../shogi/japanese';
import { isRead } from './reading';
import { readSfen } from '../shogi/sfen';
import { writeUsi } from '../shogi/usi';

function readOne(text: string, format: Format): GameRecord {
  const [reading] = [...readGames(text, format)];
  if (!reading || !isRead(reading)) throw new Error(JSON.stringify(reading));
  return reading.record;
}

const problemOf = (text: string, format: Format): Problem | undefined =>
  [...readGames(text, format)].flatMap((reading) => (isRead(reading) ? [] : [reading.problem]))[0];

const moves = ({ tree }: GameRecord): string =>
  mainLine(tree)
    .map(({ move }) => writeUsi(move))
    .join(' ');

const KIF = `# ---- a record ----
開始日時：2026/03/14(土) 10:00
棋戦：灯籠会リーグ
持ち時間：各30分
手合割：平手
先手：佐倉 結
後手：浜口 志朗
備考：公開対局
手数----指手---------消費時間--
*対局前の言葉
   1 ７六歩(77)   ( 0:16/00:00:16)
   2 ３四歩(33)   ( 0:03/00:00:03)
*よくある出だし
*二行目
   3 ２二角成(88)   ( 1:05/00:01:21)+
   4 同　銀(31)   ( 0:02/00:00:05)
   5 ４五角打   ( 0:30/00:01:51)
   6 投了   ( 0:10/00:00:15)
まで5手で先手の勝ち

変化：3手
   3 ２六歩(27)
   4 ８四歩(83)
変化：2手
   2 ８四歩(83)
`;

describe('KIF', () => {
  const record = readOne(KIF, 'kif');
  it('reads moves, times, words, variations and how it ended', () => {
    expect(moves(record)).toBe('7g7f 3c3d 8h2b+ 3a2b B*4e');
    expect(record).toMatchObject({ result: '1-0', end: 'resignation' });
    expect(mainLine(record.tree).map(({ spent }) => spent)).toEqual(
      [16, 3, 65, 2, 30].map((s) => s * 1000),
    );
    expect(mainLine(record.tree)[1]!.comment).toBe('よくある出だし\n二行目');
    expect(record.tags).toContainEqual({ name: 'Black', value: '佐倉 結' });
    expect(record.tags).toContainEqual({ name: 'Date', value: '2026.03.14' });
    expect(record.tags).toContainEqual({ name: '備考', value: '公開対局' });
    const branching = [...nodesInOrder(record.tree)].filter(({ children }) => children.length > 1);
    expect(branching).toHaveLength(2);
  });
  it('is written and read back the same', () => {
    const again = readOne(writeGame(record, 'kif'), 'kif');
    expect(again).toEqual({ ...record, tree: again.tree });
    expect(writeGame(again, 'kif')).toBe(writeGame(record, 'kif'));
  });
  it('counts variations within each other, not how many there are at one move', () => {
    const alternatives = '変化：1手\n1 ２六歩(27)\n'.repeat(150);
    const wide = readOne(`1 ７六歩(77)\n${alternatives}`, 'kif');
    expect(wide.tree.nodes.get(0)!.children).toHaveLength(151);
    const again = readOne(writeGame(wide, 'kif'), 'kif');
    expect(again.tree.nodes.get(0)!.children).toHaveLength(151);

    const forward = ['４八金(49)', '６二金(61)', '４九金(48)', '６一金(62)'];
    const line = (depth: number) =>
      `${depth + 1} ${forward[depth % 4]}\n${depth + 2} ${forward[(depth + 1) % 4]}\n`;
    const deep = (nesting: number): string =>
      Array.from(
        { length: nesting + 1 },
        (_, depth) => (depth > 0 ? `変化：${depth + 1}手\n` : '') + line(depth),
      ).join('');
    expect(problemOf(deep(100), 'kif')).toBeUndefined();
    expect(problemOf(deep(101), 'kif')).toMatchObject({ code: 'limit.nesting' });
  });
  it.each(HANDICAPS.map(({ kif, start }) => [kif, start]))(
    '%s starts as it should',
    (name, sfen) => {
      const text = `手合割：${name}\n手数----指手---------消費時間--\n`;
      expect(readOne(text, 'kif').tree.start).toBe(sfen);
      expect(readSfen(sfen!).side).toBe(name === '平手' ? 0 : 1);
    },
  );
  it('reads a position from a diagram', () => {
    const start = 'l6nl/5+P1gk/2np1S3/p1p4Pp/3P2Sp1/1PPb2P1P/P5GS1/R8/LN4bKL w RGgsn5p 1';
    const bare = {
      tree: { ...record.tree, start, nodes: new Map([[0, record.tree.nodes.get(0)!]]) },
      tags: [],
      result: '*' as const,
      end: null,
    };
    const empty = {
      ...bare,
      tree: { ...bare.tree, nodes: new Map([[0, { ...record.tree.nodes.get(0)!, children: [] }]]) },
    };
    expect(readOne(writeGame(empty, 'kif'), 'kif').tree.start).toBe(start);
  });
  it.each([
    ['先手番', 'b'],
    ['下手番', 'b'],
    ['後手番', 'w'],
    ['上手番', 'w'],
  ])('a diagram may say whose turn it is: %s', (turn, side) => {
    const position = `4k4/9/9/9/9/9/9/9/4K4 ${side} - 1`;
    const empty = '| ・ ・ ・ ・ ・ ・ ・ ・ ・|';
    const rows = [
      '| ・ ・ ・ ・v玉 ・ ・ ・ ・|',
      ...Array<string>(7).fill(empty),
      '| ・ ・ ・ ・ 玉 ・ ・ ・ ・|',
    ];
    const ranks = '一二三四五六七八九';
    const board = rows.map((row, index) => `${row}${ranks[index]}`).join('\n');
    const text = `後手の持駒：なし\n  ９ ８ ７ ６ ５ ４ ３ ２ １\n+---------------------------+\n${board}\n+---------------------------+\n先手の持駒：なし\n${turn}\n`;
    expect(readOne(text, 'kif').tree.start).toBe(position);
  });
  it.each([
    ['   1 ７五歩(77)\n', 'move.illegal', 1, 6],
    ['手合割：平手\n   1 ７六歩(77)\n   3 ３四歩(33)\n', 'kif.number', 3, 1],
    ['   1 ７六歩(77)\n変化：9手\n', 'kif.variation', 2, 1],
    ['手合割：七枚落ち\n   1 ７六歩(77)\n', 'kif.handicap', 2, 1],
    ['   1 何か\n', 'kif.move', 1, 6],
    ['   1 ７六歩(77)\n???\n', 'kif.line', 2, 1],
  ])('%j: %s', (text, code, line, column) => {
    expect(problemOf(text, 'kif')).toMatchObject({ code, place: { line, column } });
  });
  it('several games, the good kept', () => {
    const two = `${KIF}\n手合割：平手\n   1 ９九玉(59)\n\n手合割：香落ち\n   1 ３四歩(33)\n`;
    const readings = [...readGames(two, 'kif')];
    expect(readings.map(isRead)).toEqual([true, false, true]);
    // which of them is told, from 1
    expect(readings[1]).toMatchObject({ problem: { place: { game: 2 } } });
  });
});

const CSA = `'CSA encoding=UTF-8
V2.2
N+佐倉 結
N-浜口 志朗
$EVENT:灯籠会リーグ
$START_TIME:2026/03/14 10:00:00
$TIME_LIMIT:00:30+30
$NOTE:something
PI
+
+7776FU,T16
-3334FU
T3
'* words
'** 30 -3334FU +2726FU
+8822UM,T1
%TORYO
`;

describe('CSA', () => {
  it('reads moves, times, evaluations, words and how it ended', () => {
    const record = readOne(CSA, 'csa');
    expect(moves(record)).toBe('7g7f 3c3d 8h2b+');
    expect(record).toMatchObject({ result: '1-0', end: 'resignation' });
    const second = mainLine(record.tree)[1]!;
    expect(second).toMatchObject({
      spent: 3000,
      comment: 'words',
      evaluation: { score: { kind: 'cp', cp: 30 } },
      extras: ["'** -3334FU +2726FU"],
    });
    expect(record.tags).toContainEqual({ name: '$NOTE', value: 'something' });
    expect(readOne(writeGame(record, 'csa'), 'csa')).toEqual(record);
  });
  it.each([
    ['%CHUDAN', '*', 'interrupted'],
    ['%SENNICHITE', '1/2-1/2', 'repetition'],
    ['%TIME_UP', '1-0', 'time'],
    ['%ILLEGAL_MOVE', '1-0', 'illegal move'],
    ['%+ILLEGAL_ACTION', '0-1', 'illegal move'],
    ['%-ILLEGAL_ACTION', '1-0', 'illegal move'],
    ['%JISHOGI', '1/2-1/2', 'impasse'],
    ['%KACHI', '0-1', 'declaration'],
    ['%HIKIWAKE', '1/2-1/2', 'declaration'],
    ['%MATTA', '*', 'takeback'],
    ['%TSUMI', '1-0', 'checkmate'],
    ['%FUZUMI', '*', 'no mate'],
    ['%ERROR', '*', 'error'],
  ])('%s', (word, result, end) => {
    const record = readOne(`PI\n+\n+7776FU\n${word}\n`, 'csa');
    expect(record).toMatchObject({ result, end });
    expect(readOne(writeGame(record, 'csa'), 'csa')).toMatchObject({ result, end });
  });
  it('sets boards up in all three ways', () => {
    const removal = readOne('PI82HI22KA\n-\n-3334FU\n', 'csa').tree.start;
    expect(removal).toBe(HANDICAPS.find(({ name }) => name === 'two pieces')!.start);
    const rows = writeGame(readOne('PI82HI22KA\n-\n-3334FU\n', 'csa'), 'csa');
    expect(rows).toContain('P2 *  *  *  *  *  *  *  *  * ');
    expect(readOne(rows, 'csa').tree.start).toBe(removal);
    const problem = readOne('P+23TO\nP-11OU\nP+00KI\nP-00AL\n+\n+0012KI\n', 'csa');
    expect(problem.tree.start).toBe('8k/9/7+P1/9/9/9/9/9/9 b G2r2b3g4s4n4l17p 1');
  });
  it('several games and several statements on a line', () => {
    const readings = [
      ...readGames('PI\n+\n+7776FU,T1,-3334FU\n/\nPI\n+\n+7775FU\n/\nPI\n+\n+2726FU\n', 'csa'),
    ];
    expect(readings.map(isRead)).toEqual([true, false, true]);
    expect(problemOf('PI\n+\n+7776FU,+3334FU\n', 'csa')).toMatchObject({
      code: 'move.illegal',
      place: { line: 3, column: 9, game: 1 },
    });
  });
  it('says that variations will be lost', () => {
    expect(lossesIn(readOne(KIF, 'kif'), 'csa')).toEqual(['variations']);
    expect(lossesIn(readOne(KIF, 'kif'), 'kif')).toEqual([]);
  });
});

it.each([
  [31_000, { kind: 'cp', cp: 31_000 }],
  [-31_000, { kind: 'cp', cp: -31_000 }],
  [31_001, { kind: 'mate', plies: 999, winner: 0 }],
  [-31_999, { kind: 'mate', plies: 1, winner: 1 }],
])('CSA scores: %d', (value, score) => {
  const record = readOne(`V2.2\nPI\n+\n+7776FU\n'** ${value}\n%CHUDAN\n`, 'csa');
  expect(mainLine(record.tree)[0]!.evaluation).toEqual({ score });
});

it.each([
  [1000, '( 0:01/00:00:01)'],
  [1001, '( 0:01.001/00:00:01)'],
  [2002, '( 0:02.002/00:00:02)'],
  [61_500, '( 1:01.5/00:01:01)'],
])('KIF times: %d ms', (spent, text) => {
  const record = readOne('   1 ７六歩(77)   ( 0:01/00:00:01)\n', 'kif');
  const step = { type: 'annotate', node: 1, field: 'spent', value: spent } as const;
  const node = mainLine(record.tree)[0]!.id;
  expect(writeGame(applySteps(record, [{ ...step, node }]), 'kif')).toContain(text);
});

describe('KI2 and Japanese notation', () => {
  it('reads moves without origins', () => {
    const record = readOne(
      '手合割：平手\n\n▲７六歩 △３四歩 ▲２二角成 △同銀\n☗４五角 ☖投了\n',
      'ki2',
    );
    expect(moves(record)).toBe('7g7f 3c3d 8h2b+ 3a2b B*4e');
    expect(record).toMatchObject({ result: '1-0', end: 'resignation' });
  });
  it('names every legal move of many positions so that it alone is meant', () => {
    const positions = [
      'lnsgkgsnl/1r5b1/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL b - 1',
      'l6nl/5+P1gk/2np1S3/p1p4Pp/3P2Sp1/1PPb2P1P/P5GS1/R8/LN4bKL w RGgsn5p 1',
      '9/2G1G1G2/9/9/9/2S1S1S2/9/2+R1+R4/4K3k b BGSNLP 1',
    ];
    for (const sfen of positions) {
      const position = readSfen(sfen);
      const legal = shogi.moves(position);
      const texts = legal.map((move) => writeJapanese(position, move, -1));
      expect(new Set(texts).size).toBe(legal.length);
    }
  });
  it('is written with six moves a line', () => {
    const codes = '7g7f 3c3d 2g2f 8c8d 2f2e 8d8e 6i7h';
    const record = readOne(`position startpos moves ${codes}`, 'sfen');
    const lines = writeGame(record, 'ki2')
      .split(/\r?\n/)
      .filter((line) => /[▲△]/.test(line));
    expect(lines.map((line) => line.match(/[▲△]/g)!.length)).toEqual([6, 1]);
  });
  it('a pointer that fits two pieces is reported', () => {
    expect(problemOf('▲５八金\n', 'ki2')).toMatchObject({ code: 'move.ambiguous' });
  });
});

describe('positions in lines', () => {
  it('SFEN with moves', () => {
    const record = readOne('position startpos moves 7g7f 3c3d 8h2b+\n', 'sfen');
    expect(moves(record)).toBe('7g7f 3c3d 8h2b+');
    expect(readOne(writeGame(record, 'sfen'), 'sfen')).toEqual(record);
  });
  it('EPD with operations', () => {
    const line = '6k1/5ppp/8/8/8/8/5PPP/3R2K1 w - - bm Rd8#; id "back rank, 1"; c0 "a b";';
    const record = readOne(line, 'epd');
    expect(record.tags).toEqual([
      { name: 'EPD_bm', value: 'Rd8#' },
      { name: 'Event', value: 'back rank, 1' },
      { name: 'EPD_c0', value: 'a b' },
    ]);
    expect(readOne(writeGame(record, 'epd'), 'epd')).toEqual(record);
    expect(rulesetOf('chess').write(rulesetOf('chess').start(record.tree.start))).toBe(
      record.tree.start,
    );
  });
  it('EPD without a semicolon at its end', () => {
    const [bare] = [readOne('6k1/5ppp/8/8/8/8/5PPP/3R2K1 w - - bm Rd8#', 'epd')];
    expect(bare.tags).toEqual([{ name: 'EPD_bm', value: 'Rd8#' }]);
  });
  it('EPD with what is no operation shows the first of it', () => {
    const wrong = `bm "${'x'.repeat(60)}`;
    const problem = problemOf(`6k1/5ppp/8/8/8/8/5PPP/3R2K1 w - - ${wrong}`, 'epd');
    expect(problem).toMatchObject({ code: 'epd.operation', params: { found: wrong.slice(0, 40) } });
  });
  it('EPD with a line that is too long says which', () => {
    const fine = '6k1/8/8/8/8/8/8/3R2K1 w - - bm Rd8#;';
    const long = `6k1/8/8/8/8/8/8/3R2K1 w - - c0 "${'x'.repeat(LIMITS.tagLength + 1)}";`;
    const [first, second] = [...readGames(`${fine}\n${long}\n`, 'epd')];
    expect(isRead(first!)).toBe(true);
    expect(second).toMatchObject({
      problem: { code: 'limit.tagLength', place: { line: 2, column: 1 } },
    });
  });
  it.each([
    ['9/9/9/9/9/9/9/9/4K4 b - 1 2', 'sfen.fields'],
    ['9/9/9/9/9/9/9/9/9 b - 1', 'position.noKings'],
    ['4k4/9/9/9/9/9/4P4/4P4/4K4 b - 1', 'position.nifu'],
    ['P3k4/9/9/9/9/9/9/9/4K4 b - 1', 'position.deadPiece'],
    ['4k4/4G4/9/9/9/9/9/9/4K4 b - 1', 'position.idleInCheck'],
    ['4k4/9/9/9/9/9/9/9/4K4 b 5B 1', 'position.tooMany'],
  ])('%s is refused: %s', (line, code) => {
    expect(problemOf(line, 'sfen')).toMatchObject({ code });
  });
});

describe('CSA and its versions', () => {
  const timed = (control: string, more = ''): string =>
    writeGame(
      readOne(
        `手合割：平手\n持ち時間：${control}\n   1 ７六歩(77)   ( 0:16${more}/00:00:16)\n`,
        'kif',
      ),
      'csa',
    );
  it.each([
    ['各30分', '$TIME_LIMIT:00:30+00'],
    ['1時間+60秒', '$TIME_LIMIT:01:00+60'],
    ['10分+20秒', '$TIME_LIMIT:00:10+20'],
  ])('2.2 has its own statement of time: %s', (control, line) => {
    const text = timed(control);
    expect(text).toContain('V2.2\n');
    expect(text).toContain(`${line}\n`);
    expect(text).not.toContain('$TIME:');
  });
  it.each([
    ['5分 加算10秒', '$TIME:300+0+10'],
    ['90秒', '$TIME:90+0+0'],
  ])('what 2.2 can not say makes it 3: %s', (control, line) => {
    const text = timed(control);
    expect(text).toContain('V3.0\n');
    expect(text).toContain(`${line}\n`);
    expect(text).not.toContain('$TIME_LIMIT');
  });
  it('fractions make it 3 too', () => {
    expect(timed('各30分', '.5')).toMatch(/V3\.0\n[^]*\$TIME:1800\+0\+0\n[^]*T16\.5\n/);
  });
});
