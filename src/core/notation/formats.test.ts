import { describe, expect, it } from 'vitest';
import { formatOfName, formatOfText, readGames, separatorOf, type Format } from './formats';
import { isRead } from './reading';

describe('the format of a text', () => {
  it.each([
    ['[Event "Harbour League"]\n\n1. e4 *', 'pgn'],
    ['1. e4 e5 2. Nf3 *', 'pgn'],
    ['V2.2\nPI\n+\n+7776FU', 'csa'],
    ['+7776FU\n-3334FU', 'csa'],
    ['   1 ７六歩(77)\n   2 ３四歩(33)', 'kif'],
    ['   2 同　歩(23)', 'kif'],
    ['手合割：平手\n', 'kif'],
    ['先手：佐倉 結\n', 'kif'],
    ['▲７六歩 △３四歩', 'ki2'],
    ['lnsgkgsnl/1r5b1/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL b - 1', 'sfen'],
    ['position startpos moves 7g7f', 'sfen'],
    ['rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1', 'fen'],
    ['8/8/8/8/8/4k3/4p3/4K3 w - - bm Kd1;', 'epd'],
    ['a list of things to buy', null],
    ['', null],
  ])('%j: %s', (text, format) => expect(formatOfText(text)).toBe(format));

  it.each([
    ['league.pgn', 'pgn'],
    ['Ladder.KIFU', 'kif'],
    ['a.b.csa', 'csa'],
    ['pgn', null],
    ['words.txt', null],
  ])('named %s: %s', (name, format) => expect(formatOfName(name)).toBe(format));
});

describe('a game that can’t be read', () => {
  const KIF = '手合割：平手\n先手：Aino\n   1 ７六歩(77)\n   2 ３四歩(33)\n';
  it.each<[Format, good: string, bad: string, code: string]>([
    [
      'pgn',
      '[Event "a"]\n\n1. e4 e5 *\n\n',
      '[Event "b"]\n\n1. e4 {so} e6 2. Ke3 *\n\n',
      'move.illegal',
    ],
    [
      'epd',
      'k7/8/8/8/8/8/8/K7 w - - id "a";\n',
      'k7/8/8/8/8/8/8/8 w - - id "b";\n',
      'position.noKing',
    ],
    ['fen', 'k7/8/8/8/8/8/8/K7 w - - 0 1\n', 'k7/8/8/8/8/8/8/8 w - - 0 1\n', 'position.noKing'],
    ['sfen', 'startpos moves 7g7f\n', 'startpos moves 7g7e\n', 'move.illegal'],
    ['kif', KIF, KIF.replace('３四歩(33)', '３五歩(33)'), 'move.illegal'],
    ['ki2', '手合割：平手\n▲７六歩 △３四歩\n', '手合割：平手\n▲７六歩 △５五歩\n', 'move.illegal'],
    ['csa', 'V2.2\nPI\n+\n+7776FU\n', 'V2.2\nPI\n+\n+7775FU\n', 'move.illegal'],
  ])('comes back as it stands in the file: %s', (format, good, bad, code) => {
    const between = separatorOf(format);
    const readings = [...readGames([good, bad, good].join(between), format)];
    expect(readings.map(isRead)).toEqual([true, false, true]);
    const failed = readings[1]!;
    const text = 'problem' in failed ? failed.text! : '';
    expect(text.trim()).toBe(bad.trim());
    // read by itself it fails as it did
    const alone = [...readGames(text, format)];
    expect(alone).toMatchObject([{ problem: { code } }]);
  });
});
