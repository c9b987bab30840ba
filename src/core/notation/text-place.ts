import type { Place } from '../game/problem';

/**
 * Turns offsets of a text into places; `\n`, `\r\n` and `\r` end a line. The offsets asked for may only grow, so that all of them
 * together cost one pass over the text.
 */
export class PlaceFinder {
  private offset = 0;
  private lineStart = 0;

  /** @param line number of the text's first line */
  constructor(
    private readonly text: string,
    private line = 1,
  ) {}

  /** Line and column (1-based, in characters). */
  at(offset: number): Place {
    const { text } = this;
    for (; this.offset < offset && this.offset < text.length; this.offset++) {
      const code = text.charCodeAt(this.offset);
      if (code !== 10 && (code !== 13 || text.charCodeAt(this.offset + 1) === 10)) continue;
      this.line++;
      this.lineStart = this.offset + 1;
    }
    return { line: this.line, column: offset - this.lineStart + 1 };
  }
}
