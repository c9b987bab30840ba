import { ChessPosition } from '../../chess/position';
import { squareName, squareOfName } from '../../chess/board-geometry';
import { chess } from '../../chess/ruleset';
import { NULL_MOVE } from '../../game/move';
import { LIMITS, limitProblem, ReadError, type Limit, type Problem } from '../../game/problem';
import type { GameRecord, Tag } from '../../game/record';
import { tagOf } from '../../game/record';
import { RESULTS, type Result } from '../../game/result';
import { PositionError } from '../../game/ruleset';
import { trimSpaces } from '../../game/text';
import { overLimitAt, ROOT, TreeBuilder, type NodeId } from '../../game/tree';
import {
  mergeContent,
  readCommands,
  readWordsBefore,
  type CommandDialect,
} from '../comment-commands';
import { CHESS_START, readFen, writeFen } from '../../chess/fen';
import { nearbyText } from '../../game/nearby';
import type { Reading } from '../reading';
import { readSan } from '../../chess/san';
import { PlaceFinder } from '../text-place';
import type { PgnSection } from './split-pgn';

export const CHESS_DIALECT: CommandDialect = {
  square: squareOfName,
  squareName,
  mateIn: 'moves',
  symbols: false,
};

/** NAGs of the suffix signs. */
const SUFFIXES: Record<string, number> = {
  '!': 1,
  '?': 2,
  '!!': 3,
  '??': 4,
  '!?': 5,
  '?!': 6,
  '□': 7,
};

/** Tags that are held elsewhere: by the tree and the result. */
export const DERIVED: ReadonlySet<string> = new Set(['FEN', 'SetUp', 'Result']);
const STANDARD = /^(standard|chess|normal|from position)$/i;
const TAG_OPENING = /\[\s*([A-Za-z0-9_]+)\s*"/y;
const EN_PASSANT = /^e\.?p\.?$/;
/** Digits of a move number. */
const LONGEST_NUMBER = 5;
const UNKNOWN_VALUE = /^(\?|\?\?\?\?\.\?\?\.\?\?)$/;
const ROSTER = new Set(['Event', 'Site', 'Date', 'Round', 'White', 'Black']);

/** Reads the games of sections as they come. @param firstGame number of the first game; returns that of the next */
export function* readPgnSections(
  sections: Iterable<PgnSection>,
  firstGame = 1,
): Generator<Reading, number> {
  let game = firstGame;
  for (const { text, line } of sections)
    if (text !== null) game = yield* readPgnSection(text, line, game);
    else
      yield {
        problem: { ...limitProblem('gameLength'), place: { line, column: 1, game: game++ } },
      };
  return game;
}

/**
 * Reads the games of a text that starts at a game. A game with an error is reported with its place, and reading
 * goes on behind it.
 * @param firstLine number of the text's first line in its file
 * @param firstGame number of its first game
 */
function* readPgnSection(text: string, firstLine = 1, firstGame = 1): Generator<Reading, number> {
  const places = new PlaceFinder(text, firstLine);
  const braces = new BraceFinder(text);
  let offset = 0;
  let game = firstGame;
  for (;;) {
    const reader = new PgnGameReader(text, offset, braces);
    if (!reader.hasGame()) return game;
    try {
      const record = reader.read();
      const { line } = places.at(reader.start);
      yield { record, line, ...notesOf(reader, line, game) };
      offset = reader.offset;
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
      // problems are raised with their offset as column
      const { problem } = error;
      offset = behindNextResult(text, reader.offset);
      yield {
        problem: { ...problem, place: { ...places.at(problem.place.column), game } },
        text: text.slice(reader.start, offset),
      };
    }
    game++;
  }
}

function notesOf({ note, start: _ }: PgnGameReader, line: number, game: number) {
  return note ? { notes: [{ ...note, place: { line, column: 1, game } }] } : {};
}

function behindNextResult(text: string, offset: number): number {
  const result = /(?:^|\s)(?:1-0|0-1|1\/2-1\/2|\*)(?=\s|$)/g;
  result.lastIndex = offset;
  return result.exec(text) ? result.lastIndex : text.length;
}

/** Finds closing braces; all searches together cost one pass over the text. */
class BraceFinder {
  private next = -1;

  constructor(private readonly text: string) {}

  /** The next closing brace from `offset` on, or -1; offsets may only grow. */
  from(offset: number): number {
    if (this.next < offset && this.next !== Infinity) {
      const found = this.text.indexOf('}', offset);
      this.next = found < 0 ? Infinity : found;
    }
    return this.next === Infinity ? -1 : this.next;
  }
}

const isSpace = (code: number): boolean =>
  code === 32 || (code >= 9 && code <= 13) || code === 0xfeff || code === 160;

/** Characters that end a move or number: white space, brackets, comments, NAGs. */
const ENDS_WORD = Array.from(
  { length: 128 },
  (_, code) => isSpace(code) || '{}();$[]'.includes(String.fromCharCode(code)),
);
const endsWord = (code: number): boolean => (code < 128 ? ENDS_WORD[code]! : isSpace(code));

const isDigit = (code: number): boolean => code >= 48 && code <= 57;
const isLetter = (code: number): boolean =>
  (code >= 65 && code <= 90) || (code >= 97 && code <= 122);

interface OpenLine {
  /** The last node of the line. */
  node: NodeId;
  /** Moves made on the position since the line left its parent line. */
  made: number;
  /** Words that stand before the line's first move. */
  before: string[];
  isVariation: boolean;
}

/** A value as its tag means it. */
const unescaped = (value: string): string =>
  value.includes('\\') ? value.replace(/\\(["\\])/g, '$1') : value;

/** A comment on one line; empty lines in it part paragraphs, which are the only line breaks that it keeps. */
function unwrapped(body: string): string {
  if (!/[\r\n\t]| {2}/.test(body)) return trimSpaces(body);
  const paragraphs: string[] = [];
  let paragraph: string[] = [];
  for (const line of [...body.split(/\r\n|\n|\r/), '']) {
    const words = line.split(/[ \t]+/).filter(Boolean);
    if (words.length > 0) paragraph.push(words.join(' '));
    else if (paragraph.length > 0) {
      paragraphs.push(paragraph.join(' '));
      paragraph = [];
    }
  }
  return paragraphs.join('\n');
}

/** Reads one game from `offset` on. */
class PgnGameReader {
  readonly start: number;
  private readonly tags: Tag[] = [];
  private position: ChessPosition = new ChessPosition();
  private tree!: TreeBuilder;
  private result: Result | null = null;

  /** Something that the reader had to decide, to be told with the game. */
  note: Pick<Problem, 'code' | 'params'> | null = null;

  constructor(
    private readonly text: string,
    public offset: number,
    private readonly braces: BraceFinder,
  ) {
    this.skipSpace();
    this.start = this.offset;
  }

  hasGame(): boolean {
    return this.offset < this.text.length;
  }

  private fail(code: string, params: Problem['params'] = {}, offset = this.offset): never {
    throw new ReadError({ code, params, place: { line: 0, column: offset } });
  }

  private skipSpace(): void {
    const { text } = this;
    for (;;) {
      const code = text.charCodeAt(this.offset);
      if (isSpace(code)) this.offset++;
      else if (code === 37 && this.atLineStart()) this.skipLine();
      else return;
    }
  }

  private atLineStart(): boolean {
    const previous = this.text.charCodeAt(this.offset - 1);
    return this.offset === 0 || previous === 10 || previous === 13;
  }

  private skipLine(): string {
    const from = this.offset;
    const { text } = this;
    while (this.offset < text.length) {
      const code = text.charCodeAt(this.offset);
      if (code === 10 || code === 13) break;
      this.offset++;
    }
    return text.slice(from, this.offset);
  }

  read(): GameRecord {
    const start = this.readTags();
    this.tree = new TreeBuilder('chess', start);
    this.readMoves();
    const stated = tagOf(this.tags, 'Result') as Result | undefined;
    const tagResult = stated && RESULTS.includes(stated) ? stated : null;
    const result = this.result === null || this.result === '*' ? (tagResult ?? '*') : this.result;
    if (tagResult !== null && tagResult !== '*' && tagResult !== result)
      this.note = { code: 'pgn.results', params: { tag: tagResult, moves: result } };
    return { tree: this.tree.build(), tags: this.keptTags(), result, end: null };
  }

  private keptTags(): Tag[] {
    return this.tags.filter(
      ({ name, value }) => !DERIVED.has(name) && !(ROSTER.has(name) && UNKNOWN_VALUE.test(value)),
    );
  }

  private readTags(): string {
    const { text } = this;
    let fenAt = this.offset;
    while (text.charCodeAt(this.offset) === 91) {
      const at = this.offset;
      const { name, value } = this.readTag();
      if (name === 'FEN') fenAt = at;
      if (name === 'Variant' && !STANDARD.test(value))
        this.fail('pgn.variant', { found: value }, at);
      if (this.tags.length >= LIMITS.tags) this.limit('tags', at);
      this.tags.push({ name, value });
      this.skipSpace();
    }
    return this.readStart(fenAt);
  }

  private limit(limit: Limit, offset = this.offset): never {
    const { code, params } = limitProblem(limit);
    this.fail(code, params, offset);
  }

  /** Reads a tag pair and goes behind it. Quotes inside a value that no backslash announces are taken for part of it. */
  private readTag(): Tag {
    const { text } = this;
    const at = this.offset;
    const opening = TAG_OPENING;
    opening.lastIndex = at;
    const name = opening.exec(text)?.[1];
    const malformed = (): never => this.fail('pgn.tag', { found: text.slice(at, at + 40) }, at);
    if (name === undefined) return malformed();
    if (name.length > LIMITS.tagName) this.limit('tagName');
    const from = opening.lastIndex;
    const line = text.slice(from, from + LIMITS.tagLength + 2).split(/[\r\n]/, 1)[0]!;
    const tooLong = line.length > LIMITS.tagLength;
    let to = 0;
    while (to < line.length && line.charCodeAt(to) !== 34) to += line.charCodeAt(to) === 92 ? 2 : 1;
    const closing = /\s*\]/y;
    closing.lastIndex = from + to + 1;
    if (to < line.length && closing.test(text)) {
      this.offset = closing.lastIndex;
      return { name, value: unescaped(line.slice(0, to)) };
    }
    if (tooLong) this.limit('tagLength');
    const end = line.trimEnd();
    const value = end.endsWith(']') ? end.slice(0, -1).trimEnd() : '';
    if (!value.endsWith('"')) return malformed();
    this.offset = from + end.length;
    return { name, value: unescaped(value.slice(0, -1)) };
  }

  private readStart(fenAt: number): string {
    const fen = tagOf(this.tags, 'FEN');
    try {
      this.position = readFen(fen ?? CHESS_START);
    } catch (error) {
      if (!(error instanceof PositionError)) throw error;
      this.fail(error.code, error.params, fenAt);
    }
    return fen === undefined ? CHESS_START : writeFen(this.position);
  }

  private readMoves(): void {
    const { text } = this;
    const lines: OpenLine[] = [{ node: ROOT, made: 0, before: [], isVariation: false }];
    for (;;) {
      this.skipSpace();
      const code = text.charCodeAt(this.offset);
      const line = lines.at(-1)!;
      if (Number.isNaN(code)) {
        if (lines.length > 1) this.fail('pgn.openVariation');
        return;
      }
      if (code === 123) this.annotate(line, this.readBraces());
      else if (code === 59) {
        this.offset++;
        this.annotate(line, this.skipLine().trim());
      } else if (code === 40) this.openVariation(lines);
      else if (code === 41) this.closeVariation(lines);
      else if (code === 36) this.readNag(line);
      else if (code === 91) {
        if (lines.length > 1) this.fail('pgn.openVariation');
        return;
      } else if (this.readWord(line, lines.length)) return;
    }
  }

  private readBraces(): string {
    const { text } = this;
    const end = this.braces.from(this.offset + 1);
    if (end < 0) this.fail('pgn.openComment');
    if (end - this.offset > LIMITS.commentLength) this.limit('commentLength');
    const body = text.slice(this.offset + 1, end);
    this.offset = end + 1;
    return unwrapped(body);
  }

  private annotate(line: OpenLine, comment: string): void {
    if (comment === '') return;
    if (line.made === 0 && line.isVariation) {
      line.before.push(comment);
      return;
    }
    const node = this.tree.node(line.node);
    const content = readCommands(comment, CHESS_DIALECT, this.position.side);
    mergeContent(node, content);
    const limit = overLimitAt(node);
    if (limit) this.limit(limit);
    this.tags.push(...(content.tags ?? []));
    if (this.tags.length > LIMITS.tags) this.limit('tags');
  }

  private openVariation(lines: OpenLine[]): void {
    const { node, made } = lines.at(-1)!;
    if (made === 0) this.fail('pgn.variationWithoutMove');
    if (lines.length > LIMITS.nesting) this.limit('nesting');
    this.offset++;
    this.position.undo();
    lines.push({ node: this.tree.node(node).parent!, made: 0, before: [], isVariation: true });
  }

  private closeVariation(lines: OpenLine[]): void {
    if (lines.length === 1) this.fail('pgn.closedTwice');
    this.offset++;
    const closed = lines.pop()!;
    for (let i = 0; i < closed.made; i++) this.position.undo();
    const line = lines.at(-1)!;
    this.position.make(this.tree.node(line.node).move);
    if (closed.made === 0 && closed.before.length > 0)
      this.annotate(line, closed.before.join('\n'));
  }

  private readNag(line: OpenLine): void {
    const match = /^\$(\d{1,3})/.exec(this.text.slice(this.offset, this.offset + 4));
    if (!match || Number(match[1]) > 255)
      this.fail('pgn.nag', { found: this.text.slice(this.offset, this.offset + 6) });
    this.offset += match[0].length;
    this.addSymbol(line, Number(match[1]));
  }

  private addSymbol({ node: id, made, isVariation }: OpenLine, nag: number): void {
    const node = this.tree.node(id);
    if (nag === 0 || (made === 0 && isVariation) || node.symbols?.includes(nag)) return;
    (node.symbols ??= []).push(nag);
    if (overLimitAt(node)) this.limit('symbols');
  }

  /** Reads a move, a move number or a result; true when the game is over. */
  private readWord(line: OpenLine, depth: number): boolean {
    const { text } = this;
    if (this.passNumber()) return false;
    const from = this.offset;
    while (this.offset < text.length && !endsWord(text.charCodeAt(this.offset))) this.offset++;
    const promotes = this.offset > from && text.charCodeAt(this.offset) === 40;
    if (promotes && /^\([QRBNqrbn]\)/.test(text.slice(this.offset, this.offset + 3)))
      this.offset += 3;
    const word = text.slice(from, this.offset);
    if (word === '') this.fail('pgn.unexpected', { found: text[from]! });
    if (!isLetter(word.charCodeAt(0))) return this.readSign(line, depth, word);
    if (!EN_PASSANT.test(word)) this.play(line, word, from);
    return false;
  }

  /** Passes a move number with its dots; false where there is none. */
  private passNumber(): boolean {
    const { text, offset } = this;
    let end = offset;
    while (end < offset + LONGEST_NUMBER && isDigit(text.charCodeAt(end))) end++;
    if (end === offset || text.charCodeAt(end) !== 46) return false;
    while (text.charCodeAt(end) === 46) end++;
    this.offset = end;
    return true;
  }

  /** Reads a word that begins with no letter: a result, a number without a dot, what is thought of a move, castling with zeros. */
  private readSign(line: OpenLine, depth: number, written: string): boolean {
    const result = written === '½-½' ? '1/2-1/2' : written;
    if (RESULTS.includes(result as Result)) {
      if (depth > 1) {
        if (result === '*') return false;
        this.fail('pgn.resultInVariation', {}, this.offset - written.length);
      }
      this.result = result as Result;
      return true;
    }
    const word = written.replace(/^(?:\d{1,5}(?:…|$)|[.…]+)/, '');
    if (word === '' || word === '+' || word === '#' || word === '‼') return false;
    const suffix = SUFFIXES[word];
    if (suffix !== undefined) this.addSymbol(line, suffix);
    else if (!EN_PASSANT.test(word)) this.play(line, word, this.offset - word.length);
    return false;
  }

  private play(line: OpenLine, word: string, at: number): void {
    const reading = readSan(this.position, word);
    if ('problem' in reading || (reading.move === NULL_MOVE && this.position.inCheck())) {
      const problem = 'problem' in reading ? reading.problem : 'illegal';
      this.fail(
        `move.${problem}`,
        {
          move: word.slice(0, 40),
          number: `${this.position.fullmoves}${this.position.side === 0 ? '.' : '…'}`,
          position: writeFen(this.position),
          nearby: nearbyText(chess, this.position, word.slice(0, 40)),
        },
        at,
      );
    }
    const limit = this.tree.fullAt(line.node);
    if (limit) this.limit(limit, at);
    this.position.make(reading.move);
    const id = this.tree.add(line.node, reading.move);
    if (line.before.length > 0) this.tree.node(id).before = readWordsBefore(line.before.join('\n'));
    line.before = [];
    line.node = id;
    line.made++;
    const last = word.charCodeAt(word.length - 1);
    if (last === 33 || last === 63 || last === 0x25a1) {
      const suffix = SUFFIXES[/[!?□]+$/.exec(word)![0]];
      if (suffix !== undefined) this.addSymbol(line, suffix);
    }
  }
}
