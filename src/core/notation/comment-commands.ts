import type { Side } from '../game/ruleset';
import { mateMovesToPlies, matePliesToMoves, type Score, type StatedScore } from '../game/score';
import type { Annotations, Mark, MarkColour } from '../game/tree';

/** How a game's squares and mates are written in comment commands. */
export interface CommandDialect {
  square(name: string): number;
  squareName(square: number): string;
  /** Chess counts a mate in moves, shogi in plies. */
  mateIn: 'moves' | 'plies';
  /** Whether symbols are written as commands (`[%nag 4]`), for formats that have no other place for them. */
  symbols: boolean;
}

export interface CommentContent extends Annotations {
  comment?: string;
}

const COMMAND = /\[%([A-Za-z]+)\s*([^\]]*)\]/g;

/**
 * Takes the common comment commands (`clk emt eval csl cal`) and `lesson` out of a comment. Commands that it does not know, or
 * that are malformed, are kept word for word as extras.
 * @param toMove the side to move after the move that is commented on
 */
export function readCommands(text: string, dialect: CommandDialect, toMove: Side): CommentContent {
  if (!text.includes('[%')) return text === '' ? {} : { comment: text };
  const extras: string[] = [];
  const marks: Mark[] = [];
  const symbols: number[] = [];
  const found: { -readonly [K in keyof Annotations]: Annotations[K] } = {};
  const rest = text.replace(COMMAND, (whole, name: string, body: string) => {
    const value = body.trim();
    const milliseconds = name === 'clk' || name === 'emt' ? readClock(value) : null;
    const evaluation = name === 'eval' ? readEvaluation(value, dialect, toMove) : null;
    const shapes =
      name === 'csl' || name === 'cal' ? readMarks(value, name === 'cal', dialect) : null;
    const nag = name === 'nag' && dialect.symbols && /^\d{1,3}$/.test(value) ? Number(value) : 0;
    if (nag > 0 && nag < 256) symbols.push(nag);
    else if (name === 'clk' && milliseconds !== null) found.clock = milliseconds;
    else if (name === 'emt' && milliseconds !== null) found.spent = milliseconds;
    else if (evaluation) found.evaluation = evaluation;
    else if (name === 'lesson' && found.lesson === undefined && value !== '')
      found.lesson = readEscaped(value);
    else if (shapes) marks.push(...shapes);
    else extras.push(whole);
    return ' ';
  });
  const comment = rest.replace(/[ \t]*\n[ \t]*/g, '\n').replace(/^\s+|\s+$/g, '');
  if (marks.length > 0) found.marks = marks;
  if (symbols.length > 0) found.symbols = symbols;
  if (extras.length > 0) found.extras = extras;
  return comment === '' ? found : { ...found, comment };
}

/** `h:mm:ss`, tenths and thousandths allowed, as milliseconds; null when malformed. */
export function readClock(text: string): number | null {
  const match = /^(?:(\d{1,4}):)?(\d{1,4}):(\d{1,2})(?:[.,](\d{1,3})\d*)?$/.exec(text);
  if (!match) return null;
  const [, hours = '0', minutes, seconds, fraction = ''] = match;
  const whole = Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds);
  return whole * 1000 + Number(fraction.padEnd(3, '0'));
}

/** `h:mm:ss`, with a fraction only where there is one. */
export function writeClock(milliseconds: number): string {
  const rounded = Math.max(0, Math.round(milliseconds));
  const seconds = Math.floor(rounded / 1000);
  const fraction = String(rounded % 1000)
    .padStart(3, '0')
    .replace(/0+$/, '');
  const two = (value: number): string => String(value).padStart(2, '0');
  const clock = `${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  return fraction === '' ? clock : `${clock}.${fraction}`;
}

function readEvaluation(text: string, dialect: CommandDialect, toMove: Side): StatedScore | null {
  const match = /^(?:(#)([+-]?)(\d{1,4})|([+-]?\d{1,5}(?:\.\d{1,4})?))(?:,\s*(\d{1,3}))?$/.exec(
    text,
  );
  if (!match) return null;
  const [, mate, sign, count, pawns, depthText] = match;
  const depth = depthText === undefined ? {} : { depth: Number(depthText) };
  if (!mate) return { score: { kind: 'cp', cp: Math.round(Number(pawns) * 100) }, ...depth };
  const number = Number(count);
  const winner: Side = number === 0 && sign === '' ? ((1 - toMove) as Side) : sign === '-' ? 1 : 0;
  const plies = dialect.mateIn === 'plies' ? number : mateMovesToPlies(number, winner, toMove);
  return { score: { kind: 'mate', plies, winner }, ...depth };
}

/** `0.35`, `#3`, `#-3`: pawns or mate from the view of side 0. */
export function writeScore(score: Score, dialect: Pick<CommandDialect, 'mateIn'>): string {
  if (score.kind === 'cp') return (score.cp / 100).toFixed(2);
  const count = dialect.mateIn === 'plies' ? score.plies : matePliesToMoves(score.plies);
  return `#${score.winner === 1 ? '-' : ''}${count}`;
}

const COLOURS: Record<string, MarkColour> = { G: 'green', R: 'red', Y: 'yellow', B: 'blue' };
const LETTERS: Record<MarkColour, string> = { green: 'G', red: 'R', yellow: 'Y', blue: 'B' };

function readMarks(text: string, arrows: boolean, dialect: CommandDialect): Mark[] | null {
  const marks: Mark[] = [];
  for (const part of text.split(',').map((item) => item.trim())) {
    const colour = COLOURS[part[0] ?? ''];
    const square = dialect.square(part.slice(1, 3));
    const to = arrows ? dialect.square(part.slice(3)) : -1;
    if (!colour || square < 0 || part.length !== (arrows ? 5 : 3) || (arrows && to < 0))
      return null;
    marks.push(arrows ? { colour, square, to } : { colour, square });
  }
  return marks;
}

const ESCAPED = /[[\]{}%]/g;
/** Words inside a command: what would end it, or the comment, is written as `%` and two hexadecimal digits. */
const writeEscaped = (words: string): string =>
  words
    .replace(ESCAPED, (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`)
    .replace(/\s+/g, ' ');
const readEscaped = (text: string): string =>
  text
    .replace(/%(5B|5D|7B|7D|25)/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)))
    .replace(/\s+/g, ' ');

/** The commands of a node, without its words. */
export function commandsOf(node: Annotations, dialect: CommandDialect): string[] {
  const parts: string[] = [];
  if (dialect.symbols) for (const nag of node.symbols ?? []) parts.push(`[%nag ${nag}]`);
  if (node.clock !== undefined) parts.push(`[%clk ${writeClock(node.clock)}]`);
  if (node.spent !== undefined && !dialect.symbols) parts.push(`[%emt ${writeClock(node.spent)}]`);
  if (node.evaluation) {
    const { score, depth } = node.evaluation;
    parts.push(`[%eval ${writeScore(score, dialect)}${depth === undefined ? '' : `,${depth}`}]`);
  }
  const name = ({ colour, square, to }: Mark): string =>
    LETTERS[colour] + dialect.squareName(square) + (to === undefined ? '' : dialect.squareName(to));
  const squares = (node.marks ?? []).filter((mark) => mark.to === undefined);
  const arrows = (node.marks ?? []).filter((mark) => mark.to !== undefined);
  if (squares.length > 0) parts.push(`[%csl ${squares.map(name).join(',')}]`);
  if (arrows.length > 0) parts.push(`[%cal ${arrows.map(name).join(',')}]`);
  if (node.lesson !== undefined) parts.push(`[%lesson ${writeEscaped(node.lesson)}]`);
  return parts;
}

/** All commands of a node, the remarks of others, then its words, as one comment. */
export const writeCommands = (node: Annotations, dialect: CommandDialect): string =>
  [
    ...commandsOf(node, dialect),
    ...(node.extras ?? []),
    ...(node.comment ? [node.comment] : []),
  ].join(' ');

/** Adds what a further comment says to what a node holds. */
export function mergeContent(
  node: { -readonly [K in keyof Annotations]: Annotations[K] },
  content: CommentContent,
): void {
  const { comment, marks, extras, symbols, ...rest } = content;
  Object.assign(node, rest);
  if (comment !== undefined)
    node.comment = node.comment === undefined ? comment : `${node.comment}\n${comment}`;
  if (marks) node.marks = [...(node.marks ?? []), ...marks];
  if (symbols) node.symbols = [...(node.symbols ?? []), ...symbols];
  if (extras) node.extras = [...(node.extras ?? []), ...extras];
}
