import {
  closeSync,
  existsSync,
  fstatSync,
  mkdirSync,
  openSync,
  renameSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';

const MOST_BYTES = 10 * 1024 * 1024;
const MOST_LINE = 4000;

/** Where the lines of a part are kept: one file, and the one before it. */
export const logFile = (data: string, part: string): string => join(data, 'logs', `${part}.log`);

/** Keeps what a part says as structured lines in a file that does not grow without end, and shows it. */
export class PartLog {
  private file: number;
  private size: number;

  constructor(
    private readonly data: string,
    private readonly part: string,
  ) {
    mkdirSync(join(data, 'logs'), { recursive: true, mode: 0o700 });
    this.file = openSync(logFile(data, part), 'a', 0o600);
    this.size = fstatSync(this.file).size;
  }

  /** Takes lines from a stream until it ends. */
  take(stream: Readable | null): void {
    if (stream) createInterface({ input: stream }).on('line', (line) => this.write(line));
  }

  private write(line: string): void {
    const text = `${structured(line, this.part)}\n`;
    process.stderr.write(text);
    this.size += writeSync(this.file, text);
    if (this.size < MOST_BYTES) return;
    closeSync(this.file);
    const path = logFile(this.data, this.part);
    if (existsSync(path)) renameSync(path, `${path}.1`);
    this.file = openSync(path, 'a', 0o600);
    this.size = 0;
  }
}

/** A line that is none of ours becomes the message of one. */
function structured(line: string, part: string): string {
  if (line.startsWith('{"level":') && line.length <= MOST_LINE) return line;
  return JSON.stringify({
    level: 30,
    time: Date.now(),
    part,
    msg: line.trim().slice(0, MOST_LINE),
  });
}
