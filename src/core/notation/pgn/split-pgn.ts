import { LIMITS } from '../../game/problem';
import { LineSplitter, type RawLine } from '../line-splitter';

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
  private readonly lines = new LineSplitter();
  private section: string[] = [];
  private sectionLine = 1;
  private line = 0;
  private length = 0;
  private hasMoves = false;
  private inComment = false;

  /** Takes the next piece of the file and yields the sections that it completes. */
  *push(piece: string): Generator<PgnSection> {
    for (const line of this.lines.push(piece)) yield* this.add(line);
  }

  /** To be called at the end of the file. */
  *end(): Generator<PgnSection> {
    for (const line of this.lines.end()) yield* this.add(line);
    if (this.length > 0) yield this.take();
  }

  private *add({ text: line, length }: RawLine): Generator<PgnSection> {
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
