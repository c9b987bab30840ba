import { limitProblem, LIMITS, ReadError, requireLineLength, type Problem } from '../game/problem';
import type { GameRecord } from '../game/record';
import { PositionError } from '../game/ruleset';
import type { GameStream } from './game-stream';
import { LineSplitter, type RawLine } from './line-splitter';
import type { Reading } from './reading';

/** One line of a file, without what ends it, and its number. */
export interface SourceLine {
  text: string;
  number: number;
}

/** What a line is to the game before it: it belongs to it, it begins the next one, or it stands behind it and belongs to none. */
export type Cut = 'within' | 'begins' | 'between';

/** A format that goes line by line. */
export interface LineFormat {
  /** What tells of each line in turn where games end. */
  cutter(): (line: string) => Cut;
  /** @throws ReadError, placed, where they are no game */
  read(lines: readonly SourceLine[]): GameRecord;
}

const BYTE_ORDER_MARK = 0xfeff;

/** Reads games line by line; one with an error is reported with its place, and reading goes on behind it. */
export class LineStream implements GameStream {
  private readonly splitter = new LineSplitter();
  private readonly cut: (line: string) => Cut;
  private line = 0;
  private game = 0;
  /** The lines of the game that is being read; none where it is longer than a game may be. */
  private part: SourceLine[] = [];
  private length = 0;
  /** Number of its first line that is not blank. */
  private first: number | null = null;

  constructor(private readonly format: LineFormat) {
    this.cut = format.cutter();
  }

  *push(text: string): Generator<Reading> {
    for (const line of this.splitter.push(text)) yield* this.take(line);
  }

  *end(): Generator<Reading> {
    for (const line of this.splitter.end()) yield* this.take(line);
    yield* this.finish();
  }

  private *take({ text: raw, length }: RawLine): Generator<Reading> {
    const text = withoutMarks(raw, this.line++ === 0);
    const cut = this.cut(text);
    if (cut !== 'within') yield* this.finish();
    if (cut === 'between') return;
    if (this.first === null && text.trim() !== '') this.first = this.line;
    this.length += length;
    if (this.length > LIMITS.gameLength) {
      this.part = [];
      this.first ??= this.line;
    } else this.part.push({ text, number: this.line });
  }

  private *finish(): Generator<Reading> {
    const { part, length, first } = this;
    this.part = [];
    this.length = 0;
    this.first = null;
    if (first === null) return;
    this.game++;
    if (length > LIMITS.gameLength) {
      yield { problem: this.placed({ ...limitProblem('gameLength'), place: NOWHERE }, first) };
      return;
    }
    try {
      yield { record: this.format.read(part), line: first };
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
      yield { problem: this.placed(error.problem, first), text: textOf(part) };
    }
  }

  private placed(problem: Problem, first: number): Problem {
    const { place } = problem;
    return { ...problem, place: { ...place, line: place.line || first, game: this.game } };
  }
}

const NOWHERE = { line: 0, column: 1 };

/** A line without what ends it, and without the byte order mark that a text may begin with. */
function withoutMarks(line: string, isFirst: boolean): string {
  const from = isFirst && line.charCodeAt(0) === BYTE_ORDER_MARK ? 1 : 0;
  let to = line.length;
  if (line.charCodeAt(to - 1) === 10) to--;
  if (line.charCodeAt(to - 1) === 13) to--;
  return line.slice(from, to);
}

const textOf = (lines: readonly SourceLine[]): string => lines.map(({ text }) => text).join('\n');

/** Reads one line of a file. @throws ReadError with its place, also where it is too long to be looked at or holds no position */
export function readPlaced<T>({ text, number }: SourceLine, read: (text: string) => T): T {
  try {
    requireLineLength(text);
    return read(text);
  } catch (error) {
    throw located(error, number);
  }
}

/** Gives an error of a line its place. */
export function located(error: unknown, line: number): unknown {
  if (error instanceof PositionError)
    return new ReadError({ code: error.code, params: error.params, place: { line, column: 1 } });
  if (!(error instanceof ReadError)) return error;
  return new ReadError({ ...error.problem, place: { ...error.problem.place, line } });
}

/** Games are told apart by lines that begin one, once moves have been seen. */
export function cutWhere(begins: RegExp): () => (line: string) => Cut {
  const isMove = /^\s*\d+\s+\S|^[▲△▽☗☖]/;
  return () => {
    let hasMoves = false;
    return (line) => {
      const cut = hasMoves && begins.test(line) ? 'begins' : 'within';
      hasMoves = (cut === 'within' && hasMoves) || isMove.test(line);
      return cut;
    };
  };
}

/** Each line is a game, but for blank ones and those that begin with `#`. */
export const oneByLine =
  () =>
  (line: string): Cut =>
    line.startsWith('#') || line.trim() === '' ? 'between' : 'begins';
