import { boardMove, dropMove, type Move } from '../../game/move';
import { ReadError, requireLineLength, type Problem } from '../../game/problem';
import type { GameRecord } from '../../game/record';
import { PositionError } from '../../game/ruleset';
import { winFor } from '../../game/result';
import { linesOf } from '../../game/text';
import { typeOf } from '../../shogi/pieces';
import type { Reading } from '../reading';
import { KIF_ENDS, readStatedResult } from './ends';
import { ShogiGameBuilder } from './game-builder';
import { HeaderReader } from './headers';
import { PIECE_PATTERN, readSquare, SQUARE_PATTERN, typeOfName } from '../../shogi/japanese';

const NUMBER = /^\s*(\d{1,5})\s+(?=\S)/;
const TIME = /^\d+:[\d:./ ]+$/;

/** A numbered line: what stands behind the number, and the time in parentheses; a `+` at the end means nothing to us. */
interface NumberedLine {
  number: string;
  body: string;
  time: string | undefined;
}

function readNumbered(line: string): NumberedLine | null {
  const number = NUMBER.exec(line);
  if (!number) return null;
  let body = line.slice(number[0].length).trimEnd();
  if (body.endsWith('+')) body = body.slice(0, -1).trimEnd();
  const open = body.endsWith(')') ? body.lastIndexOf('(') : -1;
  const time = open < 0 ? '' : body.slice(open + 1, -1).trim();
  if (!TIME.test(time)) return { number: number[1]!, body, time: undefined };
  return { number: number[1]!, body: body.slice(0, open).trimEnd(), time };
}

const MOVE = new RegExp(
  `^(?:(${SQUARE_PATTERN})|同[\\s　]*)(${PIECE_PATTERN})(不成|成|打)?(?:\\(([1-9])([1-9])\\))?$`,
);
const SUMMARY = /^まで(?:、)?\d*手(?:で|にて)(.*)$/;

/**
 * Cuts a text into games and reads each. A game begins with header lines after the moves of another, or with a
 * `#KIF` or `手数` line; one with an error is reported with its place.
 */
export function* readKif(text: string): Generator<Reading> {
  yield* readByLines(
    text,
    (lines) => new KifReader(lines).read(),
    /^#KIF|^手合割|^開始日時|^棋戦|^先手[：:]|^下手[：:]/,
  );
}

/** One line of a file with its number. */
export interface SourceLine {
  text: string;
  number: number;
}

/** Cuts at lines that begin a new game, once moves have been seen, and reads the parts. */
export function* readByLines(
  text: string,
  read: (lines: readonly SourceLine[]) => GameRecord,
  gameStart: RegExp,
): Generator<Reading> {
  let part: SourceLine[] = [];
  let hasMoves = false;
  let game = 0;
  const finish = (): Reading | null => {
    const lines = part;
    part = [];
    hasMoves = false;
    if (!lines.some((line) => line.text.trim() !== '')) return null;
    game++;
    const first = lines.find((line) => line.text.trim() !== '')!.number;
    try {
      return { record: read(lines), line: first };
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
      return { problem: placedInGame(error.problem, game, first), text: textOf(lines) };
    }
  };
  let number = 0;
  for (const line of linesOf(text)) {
    number++;
    if (hasMoves && gameStart.test(line)) {
      const reading = finish();
      if (reading) yield reading;
    }
    if (/^\s*\d+\s+\S|^[▲△▽☗☖]/.test(line)) hasMoves = true;
    part.push({ text: line, number });
  }
  const reading = finish();
  if (reading) yield reading;
}

const textOf = (lines: readonly SourceLine[]): string => lines.map(({ text }) => text).join('\n');

const placedInGame = (problem: Problem, game: number, first: number): Problem => ({
  ...problem,
  place: { ...problem.place, line: problem.place.line || first, game },
});

class KifReader {
  private readonly headers = new HeaderReader();
  private builder: ShogiGameBuilder | null = null;
  /** Comment lines that stand before the moves. */
  private early: ((builder: ShogiGameBuilder) => void)[] = [];

  constructor(private readonly lines: readonly SourceLine[]) {}

  read(): GameRecord {
    for (const line of this.lines) {
      try {
        requireLineLength(line.text);
        this.readLine(line.text);
      } catch (error) {
        throw located(error, line.number);
      }
    }
    try {
      return this.game().finish(this.headers.tags);
    } catch (error) {
      throw located(error, this.lines[0]!.number);
    }
  }

  private game(): ShogiGameBuilder {
    if (!this.builder) {
      const builder = new ShogiGameBuilder(this.headers.start());
      this.builder = builder;
      this.early.forEach((apply) => apply(builder));
    }
    return this.builder;
  }

  private annotate(apply: (builder: ShogiGameBuilder) => void): void {
    if (this.builder) apply(this.builder);
    else this.early.push(apply);
  }

  private readLine(line: string): void {
    // what most lines are
    const move = readNumbered(line);
    if (move) return this.readMove(line, move);
    const first = line[0];
    if (first === undefined || /^\s*$/.test(line) || /^手数-+/.test(line)) return;
    const stated = first === '*' ? readStatedResult(line.slice(1)) : null;
    if (stated) return this.annotate((builder) => void Object.assign(builder, stated));
    if (first === '*') return this.annotate((builder) => builder.comment(line.slice(1)));
    if (first === '#') {
      if (!/^#KIF|^# *-+/.test(line)) this.annotate((builder) => builder.extra(line));
      return;
    }
    if (first === '&') return this.annotate((builder) => builder.extra(line));
    const variation = /^変化[：:]\s*(\d+)手/.exec(line);
    if (variation) return this.game().branch(Number(variation[1]), 1);
    const summary = SUMMARY.exec(line);
    if (summary) return readSummary(this.game(), summary[1]!);
    if (this.builder === null && this.headers.read(line)) return;
    throw new ReadError({
      code: 'kif.line',
      params: { found: line.slice(0, 40) },
      place: { line: 0, column: 1 },
    });
  }

  private readMove(line: string, { number, body, time }: NumberedLine): void {
    const game: ShogiGameBuilder = this.game();
    const column = line.indexOf(body) + 1;
    const end = KIF_ENDS.read(body, game.current.side);
    if (end) {
      if (game.inVariation) game.extra(body);
      else Object.assign(game, end);
      return;
    }
    const match = MOVE.exec(body);
    if (!match) game.fail('kif.move', { found: body.slice(0, 40), number }, column);
    if (Number(number) !== game.number)
      game.fail('kif.number', { found: number, expected: game.number }, 1);
    game.play(readMoveText(game, match), body, column, readSpent(time));
  }
}

function readMoveText(game: ShogiGameBuilder, match: RegExpExecArray): Move | null {
  const [, square, name, action, fromFile, fromRank] = match;
  const to = square === undefined ? game.previousTarget : readSquare(square);
  const type = typeOfName(name!);
  if (to < 0) return null;
  if (action === '打' || fromFile === undefined) return dropMove(type, to);
  const from = readSquare(fromFile + fromRank);
  if (typeOf(game.current.board[from]!) !== type) return null;
  return boardMove(from, to, action === '成' ? 1 : 0);
}

/** Milliseconds of `0:16/00:00:16` or `0:16`. */
function readSpent(text: string | undefined): number | null {
  const match = /^(\d{1,4}):\s*(\d{1,2})(?:\.(\d{1,3}))?/.exec(text?.trim() ?? '');
  if (!match) return null;
  const fraction = Number((match[3] ?? '').padEnd(3, '0'));
  return (Number(match[1]) * 60 + Number(match[2])) * 1000 + fraction;
}

/** `先手の勝ち` and the like, for files that have no end word. */
export function readSummary(game: ShogiGameBuilder, text: string): void {
  if (game.inVariation || game.result !== '*') return;
  const winner = /(先手|下手|後手|上手)の(反則)?勝ち/.exec(text);
  if (winner) {
    game.result = winFor(winner[1] === '先手' || winner[1] === '下手' ? 0 : 1);
    if (winner[2]) game.end = 'illegal move';
  } else if (/千日手/.test(text)) Object.assign(game, { result: '1/2-1/2', end: 'repetition' });
  else if (/持将棋/.test(text)) Object.assign(game, { result: '1/2-1/2', end: 'impasse' });
  else if (/引き?分け/.test(text)) game.result = '1/2-1/2';
  else if (/中断/.test(text)) game.end = 'interrupted';
}

/** Gives an error of a line its place. */
export function located(error: unknown, line: number): unknown {
  if (error instanceof PositionError)
    return new ReadError({ code: error.code, params: error.params, place: { line, column: 1 } });
  if (!(error instanceof ReadError)) return error;
  return new ReadError({ ...error.problem, place: { ...error.problem.place, line } });
}
