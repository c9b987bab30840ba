import { createReadStream } from 'node:fs';
import { ReadError } from '@/core/game/problem';
import { formatOfName, formatOfText, type Format } from '@/core/notation/formats';
import { readBytes } from '@/core/notation/read-bytes';
import type { Reading } from '@/core/notation/reading';
import { CommandError, EXIT, usageError } from './exit';

const PIECE = 256 * 1024;

/** What is said of a file that can't be read, and how it ends the command. */
const FILE_ERRORS: Record<string, (file: string) => CommandError> = {
  'file.binary': (file) => new CommandError(`${file}: this is no text file`, EXIT.problems),
  'file.format': (file) => usageError(`${file}: unknown format; say which with --from`),
};

/** The games of a file or of standard input (`-`), as they come: its size does not matter. An empty one has none. */
export async function* gamesOf(file: string, stated?: Format): AsyncGenerator<Reading> {
  const named = stated ?? formatOfName(file);
  const games = readBytes(piecesOf(file), (beginning) => named ?? formatOfText(beginning));
  try {
    for await (const { reading } of games) yield reading;
  } catch (error) {
    if (!(error instanceof ReadError)) throw error;
    const told = FILE_ERRORS[error.problem.code];
    if (told) throw told(file);
  }
}

async function* piecesOf(file: string): AsyncGenerator<Uint8Array> {
  const stream = file === '-' ? process.stdin : createReadStream(file, { highWaterMark: PIECE });
  try {
    for await (const piece of stream) yield piece as Buffer;
  } catch (error) {
    throw new CommandError(`${file}: ${(error as Error).message}`);
  }
}
