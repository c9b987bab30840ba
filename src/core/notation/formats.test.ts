import { describe, expect, it } from 'vitest';
import { formatOfName, formatOfText } from './formats';

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
