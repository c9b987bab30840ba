import type { Format } from '@/core/notation/formats';

/** A file that is made to be slow to read; the length of `text(n)` grows with `n` in proportion. */
export interface HostileFile {
  name: string;
  format: Format;
  /** Its last game is slow, but a game. */
  isGame?: true;
  text(n: number): string;
}

const times = (piece: string, n: number): string => piece.repeat(Math.max(1, Math.round(n)));
const numbered = (n: number, line: (index: number) => string): string =>
  Array.from({ length: Math.max(1, Math.round(n)) }, (_, index) => line(index)).join('');

const KIF_HEAD = '手合割：平手\n手数----指手---------消費時間--\n';
const KIF_CYCLE = ['４八金(49)', '６二金(61)', '４九金(48)', '６一金(62)'];
const kifMoves = (plies: number): string =>
  numbered(plies, (ply) => `${ply + 1} ${KIF_CYCLE[ply % 4]}\n`);

export const HOSTILE_FILES: readonly HostileFile[] = [
  {
    name: 'spaces in a comment',
    format: 'pgn',
    isGame: true,
    text: (n) => `1. e4 {y${times(' ', n / 2)}x} *`,
  },
  {
    name: 'blank lines in a comment',
    format: 'pgn',
    isGame: true,
    text: (n) => `1. e4 {y${times(' \n', n / 4)}x} *`,
  },
  {
    name: 'commands never closed',
    format: 'pgn',
    isGame: true,
    text: (n) => `1. e4 {${times('[%a', n / 6)}} *`,
  },
  {
    name: 'commands closed at the very end',
    format: 'pgn',
    isGame: true,
    text: (n) => `1. e4 {${times('[%1', n / 6)}]} *`,
  },
  { name: 'a command of letters', format: 'pgn', text: (n) => `1. e4 {[%${times('a', n)}} *` },
  { name: 'marks', format: 'pgn', text: (n) => `1. e4 {[%csl ${times('Gd4,', n)}Gd4]} *` },
  { name: 'games without tags', format: 'pgn', text: (n) => times('1. e4 e5 *\n', n / 10) },
  {
    name: 'games on one line',
    format: 'pgn',
    isGame: true,
    text: (n) => times('1. e4 e5 * ', n / 10),
  },
  { name: 'comments never closed', format: 'pgn', text: (n) => times('e4 { 1-0 ', n / 10) },
  {
    name: 'variations in a row',
    format: 'pgn',
    isGame: true,
    text: (n) => `1. e4 ${times('(1. d4)', n / 50)} *`,
  },
  {
    name: 'comments in a row',
    format: 'pgn',
    isGame: true,
    text: (n) => `1. e4 ${times('{a}', n / 3)} *`,
  },
  { name: 'an open tag', format: 'pgn', text: (n) => `[Event "${times('a\\"', n)}` },
  { name: 'tags that are none', format: 'pgn', text: (n) => times('[a "b" c 1-0 ', n / 10) },
  { name: 'spaces in tags', format: 'pgn', text: (n) => `[Event "a"${times(' ', n)}x\n*` },
  { name: 'signs behind a move', format: 'pgn', text: (n) => `1. e4${times('!', n)}x *` },
  {
    name: 'lines that look like tags',
    format: 'pgn',
    text: (n) => `1. e4 {${times('[Event\n', n / 7)}} *`,
  },
  {
    name: 'spaces behind a move',
    format: 'kif',
    text: (n) => `${KIF_HEAD}1 ７六歩(77)${times(' ', n)}x`,
  },
  {
    name: 'a time that never ends',
    format: 'kif',
    text: (n) => `${KIF_HEAD}1 ７六歩(77) (0:${times(' ', n)}x)`,
  },
  { name: 'notes', format: 'kif', text: (n) => `${KIF_HEAD}${times('#a\n', n / 3)}` },
  {
    name: 'comment lines',
    format: 'kif',
    isGame: true,
    text: (n) => `${KIF_HEAD}${times('*a\n', n / 3)}`,
  },
  { name: 'headers', format: 'kif', text: (n) => times('備考：a\n', n / 6) },
  {
    name: 'variations at both ends in turn',
    format: 'kif',
    isGame: true,
    text: (n) => {
      const plies = Math.round(Math.min(8000, n / 60));
      const last = plies - (plies % 4);
      return `${KIF_HEAD}${kifMoves(plies)}${numbered(n / 60, (index) =>
        index % 2 === 0
          ? `変化：${last + 1 - 4}手\n${last + 1 - 4} ${KIF_CYCLE[0]}\n`
          : `変化：1手\n1 ${KIF_CYCLE[0]}\n`,
      )}`;
    },
  },
  { name: 'same-square signs', format: 'ki2', text: (n) => `▲同${times('　', n)}x` },
  {
    name: 'comment lines',
    format: 'ki2',
    isGame: true,
    text: (n) => `▲７六歩\n${times('*a\n', n / 3)}`,
  },
  { name: 'remarks', format: 'csa', text: (n) => `PI\n+\n+7776FU\n${times("'a\n", n / 3)}` },
  {
    name: 'comment lines',
    format: 'csa',
    isGame: true,
    text: (n) => `PI\n+\n+7776FU\n${times("'*a\n", n / 3)}`,
  },
  {
    name: 'an evaluation',
    format: 'csa',
    text: (n) => `PI\n+\n+7776FU\n'** 1${times(' ', n)}\u2028x`,
  },
  { name: 'commas', format: 'csa', text: (n) => `PI\n+\n${times(',', n)}` },
  { name: 'spaces before the moves', format: 'sfen', text: (n) => `startpos${times(' ', n)}moves` },
  { name: 'spaces in a line', format: 'fen', text: (n) => `8/8/8${times(' ', n)}x` },
  {
    name: 'operations',
    format: 'epd',
    text: (n) => `8/8/8/8/8/8/8/K1k5 w - - ${times('a;', n / 2)}`,
  },
  { name: 'spaces', format: 'epd', text: (n) => `8/8/8/8/8/8/8/K1k5 w - - a${times(' ', n)}"` },
  {
    name: 'an open quote',
    format: 'epd',
    text: (n) => `8/8/8/8/8/8/8/K1k5 w - - a "${times('\\"', n / 2)}`,
  },
];
