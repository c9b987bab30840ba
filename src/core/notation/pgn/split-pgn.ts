import { LIMITS } from '../../game/problem';

/** Part of a PGN file that starts at a game, with the number of its first line. */
export interface PgnSection {
  /** Null where it is longer than a game may be: it is not kept. */
  text: string | null;
  line: number;
}

const TAG_LINE = /^\s*\[\s*[A-Za-z0-9_]+\s*"/;
const EVENT_LINE = /^\[Event\s*"/;

/**
 * Cuts a file that arrives in pieces into sections of whole games, so that it need not be held in memory. A tag
 * line after moves starts a new section; an `[Event "…"]` line does so even inside a comment that was left open.
 */
export class PgnSplitter {
  /** The line that is not complete yet, in pieces; empty once it is too long to be kept. */
  private pending: string[] = [];
  private pendingLength = 0;
  private endsInReturn = false;
  private section: string[] = [];
  private sectionLine = 1;
  private line = 0;
  private length = 0;
  private hasMoves = false;
  private inComment = false;

  /** Takes the next piece of the file and yields the sections that it completes. */
  *push(piece: string): Generator<PgnSection> {
    const text = this.endsInReturn ? `\r${piece}` : piece;
    this.endsInReturn = text.endsWith('\r');
    const whole = this.endsInReturn ? text.slice(0, -1) : text;
    let from = 0;
    const lineEnd = /\r\n|\n|\r/g;
    for (let match = lineEnd.exec(whole); match; match = lineEnd.exec(whole)) {
      this.hold(whole.slice(from, lineEnd.lastIndex));
      yield* this.endLine();
      from = lineEnd.lastIndex;
    }
    this.hold(whole.slice(from));
  }

  /** To be called at the end of the file. */
  *end(): Generator<PgnSection> {
    if (this.endsInReturn) this.hold('\r');
    if (this.pendingLength > 0) yield* this.endLine();
    if (this.length > 0) yield this.take();
  }

  private hold(part: string): void {
    this.pendingLength += part.length;
    if (this.pendingLength > LIMITS.gameLength) this.pending = [];
    else if (part !== '') this.pending.push(part);
  }

  private *endLine(): Generator<PgnSection> {
    const line = this.pending.join('');
    const length = this.pendingLength;
    this.pending = [];
    this.pendingLength = 0;
    this.line++;
    const isTag = line.charCodeAt(0) <= 91 && TAG_LINE.test(line);
    if (this.hasMoves && isTag && (!this.inComment || EVENT_LINE.test(line))) yield this.take();
    this.length += length;
    if (this.length > LIMITS.gameLength) {
      this.section = [];
      this.hasMoves = true;
    } else this.section.push(line);
    if (!isTag || this.inComment) this.follow(line);
  }

  private take(): PgnSection {
    const text = this.length > LIMITS.gameLength ? null : this.section.join('');
    const taken = { text, line: this.sectionLine };
    this.section = [];
    this.length = 0;
    this.hasMoves = false;
    this.inComment = false;
    this.sectionLine = this.line;
    return taken;
  }

  /** Notes whether moves have begun and whether a comment is open at the end of the line. */
  private follow(line: string): void {
    if (!this.inComment && line.charCodeAt(0) === 37) return;
    for (let i = 0; i < line.length; i++) {
      const code = line.charCodeAt(i);
      if (this.inComment) {
        const close = line.indexOf('}', i);
        if (close < 0) return;
        this.inComment = false;
        i = close;
      } else if (code === 59) return;
      else if (code === 123) this.inComment = this.hasMoves = true;
      else if (code > 32) this.hasMoves = true;
    }
  }
}
