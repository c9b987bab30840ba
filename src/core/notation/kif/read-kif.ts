import { boardMove, dropMove, type Move, type Square } from '../../game/move';
import { ReadError } from '../../game/problem';
import type { GameRecord } from '../../game/record';
import { winFor } from '../../game/result';
import { typeOf } from '../../shogi/pieces';
import { cutWhere, located, readPlaced, type LineFormat, type SourceLine } from '../line-stream';
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

/** What the text of a move says by itself. */
interface WrittenMove {
  /** Null: where the move before went. */
  to: Square | null;
  type: number;
  /** Null: it is dropped. */
  from: Square | null;
  promotes: boolean;
}

/** Texts of moves that were read: the same ones come again in every game. */
const known = new Map<string, WrittenMove>();
const MOST_KNOWN = 20_000;
/** A longer text may hold on to the line that it is cut from. */
const MOST_LENGTH = 12;

function writtenMove(text: string): WrittenMove | null {
  const again = known.get(text);
  if (again) return again;
  const written = readWritten(text);
  if (written && text.length <= MOST_LENGTH) {
    if (known.size >= MOST_KNOWN) known.clear();
    known.set(text, written);
  }
  return written;
}

function readWritten(text: string): WrittenMove | null {
  const match = MOVE.exec(text);
  if (!match) return null;
  const [, square, name, action, fromFile, fromRank] = match;
  const isDropped = action === '打' || fromFile === undefined;
  return {
    to: square === undefined ? null : readSquare(square),
    type: typeOfName(name!),
    from: isDropped ? null : readSquare(fromFile + fromRank),
    promotes: action === '成',
  };
}

const SUMMARY = /^まで(?:、)?\d*手(?:で|にて)(.*)$/;

/** A game begins with header lines after the moves of another, or with a `#KIF` line. */
export const KIF: LineFormat = {
  cutter: cutWhere(/^#KIF|^手合割|^開始日時|^棋戦|^先手[：:]|^下手[：:]/),
  read: (lines) => new KifReader(lines).read(),
};

class KifReader {
  private readonly headers = new HeaderReader();
  private builder: ShogiGameBuilder | null = null;
  /** Comment lines that stand before the moves. */
  private early: ((builder: ShogiGameBuilder) => void)[] = [];

  constructor(private readonly lines: readonly SourceLine[]) {}

  read(): GameRecord {
    for (const line of this.lines) readPlaced(line, (text) => this.readLine(text));
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
    const written = writtenMove(body);
    if (!written) {
      const end = KIF_ENDS.read(body, game.current.side);
      if (!end) game.fail('kif.move', { found: body.slice(0, 40), number }, column);
      if (game.inVariation) game.extra(body);
      else Object.assign(game, end);
      return;
    }
    if (Number(number) !== game.number)
      game.fail('kif.number', { found: number, expected: game.number }, 1);
    game.play(moveIn(game, written), body, column, readSpent(time));
  }
}

/** The move that is written, where the board has such a piece for it. */
function moveIn(
  game: ShogiGameBuilder,
  { to: stated, type, from, promotes }: WrittenMove,
): Move | null {
  const to = stated ?? game.previousTarget;
  if (to < 0) return null;
  if (from === null) return dropMove(type, to);
  return typeOf(game.current.board[from]!) === type ? boardMove(from, to, promotes ? 1 : 0) : null;
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
