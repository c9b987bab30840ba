import { LIMITS } from '../game/problem';
import type { Tag } from '../game/record';
import type { Side } from '../game/ruleset';
import { mateMovesToPlies, matePliesToMoves, type Score, type StatedScore } from '../game/score';
import { trimBlank, trimSpaces } from '../game/text';
import {
  CAUSES,
  type Annotations,
  type Cause,
  type Mark,
  type MarkColour,
  type NodeDraft,
} from '../game/tree';

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
  /** Tags that the format has no other place for. */
  tags?: readonly Tag[];
}

const COMMAND_NAME = /\[%([A-Za-z]+)/y;

/** A comment cut into words and commands, in order; `close` of a command is behind its bracket. */
function* commandsIn(text: string): Generator<{ open: number; close: number; name: string }> {
  let from = 0;
  for (;;) {
    const open = text.indexOf('[%', from);
    if (open < 0) return;
    COMMAND_NAME.lastIndex = open;
    const name = COMMAND_NAME.exec(text)?.[1];
    from = open + 2;
    if (name === undefined || name === 'char') continue;
    const close = text.indexOf(']', from) + 1;
    if (close === 0) return;
    yield { open, close, name };
    from = close;
  }
}

/**
 * Takes the common comment commands (`clk emt eval csl cal`) and our own (`lesson cause nag tag remark char`, docs/formats.md) out of a
 * comment. Commands that it does not know, or that are malformed, are kept word for word as extras.
 * @param toMove the side to move after the move that is commented on
 */
export function readCommands(text: string, dialect: CommandDialect, toMove: Side): CommentContent {
  if (!text.includes('[%')) {
    const comment = trimLines(text);
    return comment === '' ? {} : { comment };
  }
  const extras: string[] = [];
  const marks: Mark[] = [];
  const symbols: number[] = [];
  const tags: Tag[] = [];
  const words: string[] = [];
  const found: { -readonly [K in keyof Annotations]: Annotations[K] } = {};
  let from = 0;
  for (const { open, close, name } of commandsIn(text)) {
    words.push(text.slice(from, open));
    from = close;
    const value = trimBlank(text.slice(open + 2 + name.length, close - 1));
    const milliseconds = name === 'clk' || name === 'emt' ? readClock(value) : null;
    const evaluation = name === 'eval' ? readEvaluation(value, dialect, toMove) : null;
    const shapes =
      name === 'csl' || name === 'cal' ? readMarks(value, name === 'cal', dialect) : null;
    const nag = name === 'nag' && dialect.symbols && /^\d{1,3}$/.test(value) ? Number(value) : 0;
    const tag = name === 'tag' ? readTag(value) : null;
    if (nag > 0 && nag < 256) symbols.push(nag);
    else if (name === 'clk' && milliseconds !== null) found.clock = milliseconds;
    else if (name === 'emt' && milliseconds !== null) found.spent = milliseconds;
    else if (evaluation) found.evaluation = evaluation;
    else if (name === 'lesson' && found.lesson === undefined && value !== '')
      found.lesson = readEscaped(value);
    else if (name === 'cause' && isCause(value)) found.cause = value;
    else if (name === 'remark') extras.push(readEscaped(value));
    else if (tag) tags.push(tag);
    else if (shapes) marks.push(...shapes);
    else extras.push(text.slice(open, close));
  }
  words.push(text.slice(from));
  const comment = readWords(trimLines(words.map(trimSpaces).join(' ')));
  if (marks.length > 0) found.marks = marks;
  if (symbols.length > 0) found.symbols = symbols;
  if (extras.length > 0) found.extras = extras;
  return {
    ...found,
    ...(comment === '' ? {} : { comment }),
    ...(tags.length > 0 ? { tags } : {}),
  };
}

const isCause = (word: string): word is Cause => (CAUSES as readonly string[]).includes(word);

const trimLines = (text: string): string => trimBlank(text.split('\n').map(trimSpaces).join('\n'));

/** Signs that words have but a comment can't hold, each with its place in Unicode. */
const readWords = (text: string): string =>
  text.replace(/\[%char (20|2A|5B|7D|A)\]/g, (_, code: string) =>
    String.fromCharCode(parseInt(code, 16)),
  );

/** The command that stands for a sign which words have but a comment can't hold. */
const charCommand = (sign: string): string =>
  `[%char ${sign.charCodeAt(0).toString(16).toUpperCase()}]`;

/**
 * A person's words as a comment holds them: what would end the comment, be taken for a command or for a line break of the file is
 * written as a command of its own, so that the words come back as they were.
 */
export const writeWords = (words: string): string =>
  trimLines(words.replace(/\r\n?/g, '\n')).replace(/\}|\[(?=%|Event)|(?<=\n)\n/g, charCommand);

/** Words before a move, in which commands mean nothing and stay words. */
export const writeWordsBefore = (words: string): string =>
  words.replace(/\}|\[(?=%char|Event)/g, charCommand);
export const readWordsBefore = readWords;

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
    if (marks.length === LIMITS.marks) return null;
    const colour = COLOURS[part[0] ?? ''];
    const square = dialect.square(part.slice(1, 3));
    const to = arrows ? dialect.square(part.slice(3)) : -1;
    if (!colour || square < 0 || part.length !== (arrows ? 5 : 3) || (arrows && to < 0))
      return null;
    marks.push(arrows ? { colour, square, to } : { colour, square });
  }
  return marks;
}

const ESCAPED = /[[\]{}%\t\n\r]| (?= )|^ | $/g;
/** Words inside a command: what would end it, or not come back, is written as `%` and two hexadecimal digits. */
const writeEscaped = (words: string): string =>
  words.replace(
    ESCAPED,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`,
  );
const readEscaped = (text: string): string =>
  text
    .replace(/[ \t\n\r]+/g, ' ')
    .replace(/%(5B|5D|7B|7D|25|09|0A|0D|20)/g, (_, code: string) =>
      String.fromCharCode(parseInt(code, 16)),
    );

/** A tag that a format has no other place for. */
export const tagCommand = ({ name, value }: Tag): string =>
  `[%tag ${writeEscaped(name).replace(/ /g, '%20')} ${writeEscaped(value)}]`;

function readTag(text: string): Tag | null {
  const gap = text.indexOf(' ');
  const name = readEscaped(gap < 0 ? text : text.slice(0, gap));
  return name === '' ? null : { name, value: gap < 0 ? '' : readEscaped(text.slice(gap + 1)) };
}

/** A remark of others, word for word where it would be read as such, else inside a command of our own. */
export function remarkCommand(remark: string, dialect: CommandDialect): string {
  const { extras, ...rest } = readCommands(remark, dialect, 0);
  const isItself =
    extras?.length === 1 &&
    extras[0] === remark &&
    Object.keys(rest).length === 0 &&
    !/[{}\t\n\r]| {2}|^\[%(?:result|depth) /.test(remark);
  return isItself ? remark : `[%remark ${writeEscaped(remark)}]`;
}

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
  if (node.lesson !== undefined)
    parts.push(`[%lesson ${writeEscaped(trimBlank(node.lesson.replace(/[ \t\r\n]+/g, ' ')))}]`);
  if (node.cause !== undefined) parts.push(`[%cause ${node.cause}]`);
  return parts;
}

/** All commands of a node, the remarks of others, then its words, as one comment. */
export const writeCommands = (node: Annotations, dialect: CommandDialect): string =>
  [
    ...commandsOf(node, dialect),
    ...(node.extras ?? []).map((remark) => remarkCommand(remark, dialect)),
    ...(node.comment ? [writeWords(node.comment)] : []),
  ].join(' ');

/** Adds what a further comment says to what a node holds; its lists go over to the node. */
export function mergeContent(node: NodeDraft, content: CommentContent): void {
  const { comment, marks, extras, symbols, tags: _, ...rest } = content;
  Object.assign(node, rest);
  if (comment !== undefined)
    node.comment = node.comment === undefined ? comment : `${node.comment}\n${comment}`;
  if (marks) append((node.marks ??= []), marks);
  if (symbols) append((node.symbols ??= []), symbols);
  if (extras) append((node.extras ??= []), extras);
}

function append<T>(list: T[], more: readonly T[]): void {
  for (const one of more) list.push(one);
}
