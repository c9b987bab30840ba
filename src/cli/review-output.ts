import { existsSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { settingsText, type SweepSettings } from '@/core/review/sweep-settings';
import { EXIT, CommandError, usageError } from './exit';
import { write } from './print';

/** Where what is said of each game goes, one JSON object a line, in the order of the file. */
export interface ReviewOutput {
  /** Games, bad ones included, that it holds from an earlier run. */
  done: number;
  write(line: object): Promise<void>;
  close(): Promise<void>;
}

export const toStandardOutput: ReviewOutput = {
  done: 0,
  write: (line) => write(process.stdout, `${JSON.stringify(line)}\n`),
  close: () => Promise.resolve(),
};

/**
 * A file, which is gone on with where `isResumed`.
 * @throws CommandError where there is one and it is not to be gone on with, or where it was made otherwise
 */
export async function toFile(
  file: string,
  settings: SweepSettings,
  isResumed: boolean,
): Promise<ReviewOutput> {
  if (!isResumed && existsSync(file))
    throw usageError(`${file} is there already. --resume goes on with it.`);
  const done = isResumed && existsSync(file) ? await goOnWith(file, settings) : 0;
  const handle = await open(file, 'a');
  return {
    done,
    write: async (line) => void (await handle.write(`${JSON.stringify(line)}\n`)),
    close: () => handle.close(),
  };
}

/** Takes away a last line without an end, and tells how many games there are. */
async function goOnWith(file: string, settings: SweepSettings): Promise<number> {
  const handle = await open(file, 'r+');
  try {
    const { size } = await handle.stat();
    const { tail, end } = await tailOf(handle, size);
    if (end < tail.length) await handle.truncate(size - tail.length + end);
    if (end === 0) return 0;
    const last = tail.subarray(tail.subarray(0, end - 1).lastIndexOf(LINE_END) + 1, end);
    const line = parsed(last.toString('utf8'));
    if (typeof line?.game !== 'number')
      throw new CommandError(`${file}: this was not written by review --json`, EXIT.problems);
    if (line.settings !== settingsText(settings))
      throw usageError(`${file} was made with other settings: ${line.settings}`);
    return line.game;
  } finally {
    await handle.close();
  }
}

const LINE_END = 0x0a;
const TAIL = 1 << 20;

/** So much of the end of a file as holds its last whole line, and where that line ends in it; 0: there is none. */
async function tailOf(handle: FileHandle, size: number): Promise<{ tail: Buffer; end: number }> {
  for (let length = TAIL; ; length *= 4) {
    const tail = Buffer.alloc(Math.min(length, size));
    await handle.read(tail, 0, tail.length, size - tail.length);
    const end = tail.lastIndexOf(LINE_END) + 1;
    const isWhole = end > 1 && tail.subarray(0, end - 1).includes(LINE_END);
    if (isWhole || tail.length === size) return { tail, end };
  }
}

function parsed(text: string): { game?: unknown; settings?: string } | null {
  try {
    return JSON.parse(text) as { game?: unknown; settings?: string } | null;
  } catch {
    return null;
  }
}
