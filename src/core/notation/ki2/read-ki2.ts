import type { Move } from '../../game/move';
import { ReadError } from '../../game/problem';
import type { GameRecord } from '../../game/record';
import { KIF_ENDS } from '../kif/ends';
import { ShogiGameBuilder } from '../kif/game-builder';
import { HeaderReader } from '../kif/headers';
import { MOVE_PATTERN, movesWritten } from '../../shogi/japanese';
import { readSummary } from '../kif/read-kif';
import { cutWhere, located, readPlaced, type LineFormat, type SourceLine } from '../line-stream';

const MOVE = new RegExp(MOVE_PATTERN, 'y');

/** KI2, in which moves say no origin but point at it where several pieces could move. */
export const KI2: LineFormat = {
  cutter: cutWhere(/^手合割|^開始日時|^棋戦|^先手[：:]|^下手[：:]/),
  read: (lines) => new Ki2Reader(lines).read(),
};

class Ki2Reader {
  private readonly headers = new HeaderReader();
  private builder: ShogiGameBuilder | null = null;
  private early: string[] = [];

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
      this.builder = new ShogiGameBuilder(this.headers.start());
      this.early.forEach((line) => this.builder!.comment(line));
    }
    return this.builder;
  }

  private readLine(line: string): void {
    if (/^\s*$/.test(line)) return;
    if (line[0] === '*') {
      if (this.builder) this.builder.comment(line.slice(1));
      else this.early.push(line.slice(1));
      return;
    }
    if (line[0] === '#' || line[0] === '&') return this.game().extra(line);
    const variation = /^変化[：:]\s*(\d+)手/.exec(line);
    if (variation) return this.game().branch(Number(variation[1]), 1);
    const summary = /^まで(?:、)?\d*手(?:で|にて)(.*)$/.exec(line);
    if (summary) return readSummary(this.game(), summary[1]!);
    if (this.builder === null && !/^\s*[▲△▽▼☗☖]/.test(line) && this.headers.read(line)) return;
    this.readMoves(line);
  }

  private readMoves(line: string): void {
    const game: ShogiGameBuilder = this.game();
    let offset = 0;
    for (;;) {
      while (/[\s　]/.test(line[offset] ?? '')) offset++;
      if (offset >= line.length) return;
      MOVE.lastIndex = offset;
      const match = MOVE.exec(line);
      if (match) {
        const move = this.readMove(game, match, offset + 1);
        game.play(move, match[0], offset + 1, null);
        offset = MOVE.lastIndex;
        continue;
      }
      const word = /^\S+/.exec(line.slice(offset))![0].replace(/^[▲△▽▼☗☖]/, '');
      const end = KIF_ENDS.read(word, game.current.side);
      if (!end)
        throw new ReadError({
          code: 'kif.move',
          params: { found: line.slice(offset, offset + 20), number: game.number },
          place: { line: 0, column: offset + 1 },
        });
      if (!game.inVariation) Object.assign(game, end);
      return;
    }
  }

  private readMove(game: ShogiGameBuilder, match: RegExpExecArray, column: number): Move | null {
    const left = movesWritten(game.current, match, game.previousTarget);
    if (left.length > 1) game.fail('move.ambiguous', this.describe(match[0], game), column);
    return left[0] ?? null;
  }

  private describe(written: string, game: ShogiGameBuilder) {
    return { move: written, number: String(game.number), position: '', nearby: '' };
  }
}
