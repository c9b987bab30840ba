import { LIMITS } from '../../game/problem';

/** Part of a PGN file that starts at a game, with the number of its first line. */
export interface PgnSection {
  text: string;
  line: number;
}

const TAG_LINE = /^\s*\[\s*[A-Za-z0-9_]+\s*"/;
const EVENT_LINE = /^\[Event\s*"/;

/**
 * Cuts a file that arrives in pieces into sections of whole games, so that it need not be held in memory. A tag
 * line after moves starts a new section; an `[Event "…"]` line does so even inside a comment that was left open.
 */
export class PgnSplitter {
  private pending = '';
  private section: string[] = [];
  private sectionLine = 1;
  private line = 0;
  private length = 0;
  private hasMoves = false;
  private inComment = false;

  /** Takes the next piece of the file and yields the sections that it completes. */
  *push(piece: string): Generator<PgnSection> {
    const text = this.pending + piece;
    let from = 0;
    const lineEnd = /\r\n|\n|\r(?!$)/g;
    for (let match = lineEnd.exec(text); match; match = lineEnd.exec(text)) {
      yield* this.addLine(text.slice(from, lineEnd.lastIndex));
      from = lineEnd.lastIndex;
    }
    this.pending = text.slice(from);
    if (this.pending.length > LIMITS.gameLength) {
      const rest = this.pending;
      this.pending = '';
      yield* this.addLine(rest);
    }
  }

  /** To be called at the end of the file. */
  *end(): Generator<PgnSection> {
    if (this.pending !== '') yield* this.addLine(this.pending);
    this.pending = '';
    if (this.length > 0) yield this.take();
  }

  private *addLine(line: string): Generator<PgnSection> {
    this.line++;
    const isTag = line.charCodeAt(0) <= 91 && TAG_LINE.test(line);
    if (this.hasMoves && isTag && (!this.inComment || EVENT_LINE.test(line))) yield this.take();
    else if (this.length + line.length > LIMITS.gameLength) yield this.take();
    this.section.push(line);
    this.length += line.length;
    if (!isTag || this.inComment) this.follow(line);
  }

  private take(): PgnSection {
    const taken = { text: this.section.join(''), line: this.sectionLine };
    this.section = [];
    this.length = 0;
    this.hasMoves = false;
    this.inComment = false;
    this.sectionLine = this.line;
    return taken;
  }

  private follow(line: string): void {
    if (!this.inComment && line.charCodeAt(0) === 37) return;
    let from = 0;
    for (;;) {
      if (this.inComment) {
        const close = line.indexOf('}', from);
        if (close < 0) return;
        this.inComment = false;
        from = close + 1;
        continue;
      }
      const open = line.indexOf('{', from);
      const semicolon = line.indexOf(';', from);
      const moves = line.slice(from, open < 0 ? undefined : open);
      if (!this.hasMoves && /\S/.test(moves)) this.hasMoves = true;
      if (open < 0 || (semicolon >= 0 && semicolon < open)) return;
      this.inComment = true;
      this.hasMoves = true;
      from = open + 1;
    }
  }
}
