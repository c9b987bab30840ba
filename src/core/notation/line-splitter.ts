import { LIMITS } from '../game/problem';

/** A line of a text with what ends it: `\n`, `\r\n` or `\r`. */
export interface RawLine {
  /** Empty where it is longer than a game may be: it is not kept. */
  text: string;
  /** Characters there are in it. */
  length: number;
}

/** Cuts a text that comes in pieces into its lines, so that it need not be held in memory. */
export class LineSplitter {
  /** The line that is not complete yet, in pieces. */
  private pending: string[] = [];
  private length = 0;
  private endsInReturn = false;

  /** Takes the next piece of the text and yields the lines that it completes. */
  *push(piece: string): Generator<RawLine> {
    const text = this.endsInReturn ? `\r${piece}` : piece;
    this.endsInReturn = text.endsWith('\r');
    const whole = this.endsInReturn ? text.slice(0, -1) : text;
    let from = 0;
    const lineEnd = /\r\n|\n|\r/g;
    while (lineEnd.test(whole)) {
      this.hold(whole.slice(from, lineEnd.lastIndex));
      yield this.take();
      from = lineEnd.lastIndex;
    }
    this.hold(whole.slice(from));
  }

  /** To be called at the end of the text. */
  *end(): Generator<RawLine> {
    if (this.endsInReturn) this.hold('\r');
    if (this.length > 0) yield this.take();
  }

  private hold(part: string): void {
    this.length += part.length;
    if (this.length > LIMITS.gameLength) this.pending = [];
    else if (part !== '') this.pending.push(part);
  }

  private take(): RawLine {
    const { pending, length } = this;
    const text = pending.length === 1 ? pending[0]! : pending.join('');
    this.pending = [];
    this.length = 0;
    return { text, length };
  }
}
