import { createReadStream } from 'node:fs';
import { open, readFile } from 'node:fs/promises';
import { legacyEncoding, decodeText, isBinary } from '@/core/notation/encoding';
import {
  formatKind,
  formatOfName,
  formatOfText,
  readGames,
  type Format,
} from '@/core/notation/formats';
import { PgnSplitter, type PgnSection } from '@/core/notation/pgn/split-pgn';
import { readPgnSections } from '@/core/notation/pgn/read-pgn';
import type { Reading } from '@/core/notation/reading';
import { LIMITS } from '@/core/game/problem';
import { CommandError, EXIT, usageError } from './exit';

export async function readInput(file: string): Promise<Buffer> {
  if (file === '-') {
    const pieces: Buffer[] = [];
    for await (const piece of process.stdin) pieces.push(piece as Buffer);
    return Buffer.concat(pieces);
  }
  try {
    return await readFile(file);
  } catch (error) {
    throw new CommandError(`${file}: ${(error as Error).message}`);
  }
}

/**
 * The games of a file or of standard input (`-`). A PGN file is streamed, so that its size does not matter; what is
 * read whole has a limit.
 */
export async function* gamesOf(file: string, stated?: Format): AsyncGenerator<Reading> {
  const named = stated ?? formatOfName(file);
  if (named === 'pgn' && file !== '-') {
    yield* streamPgn(file);
    return;
  }
  const bytes = await readInput(file);
  if (bytes.length > LIMITS.fileBytes)
    throw new CommandError(`${file}: larger than ${LIMITS.fileBytes} bytes`, EXIT.problems);
  if (isBinary(bytes)) throw new CommandError(`${file}: this is no text file`, EXIT.problems);
  const text = decodeText(bytes, named ? formatKind(named) : 'shogi');
  const format = named ?? formatOfText(text);
  if (!format) throw usageError(`${file}: unknown format; say which with --from`);
  yield* readGames(decodeText(bytes, formatKind(format)), format);
}

async function* streamPgn(file: string): AsyncGenerator<Reading> {
  const decoder = new TextDecoder(await encodingOf(file));
  const splitter = new PgnSplitter();
  let game = 1;
  const read = function* (sections: Iterable<PgnSection>): Generator<Reading> {
    game = yield* readPgnSections(sections, game);
  };
  for await (const piece of createReadStream(file, { highWaterMark: 256 * 1024 }))
    yield* read(splitter.push(decoder.decode(piece as Buffer, { stream: true })));
  yield* read(splitter.push(decoder.decode()));
  yield* read(splitter.end());
}

/** UTF-8 where the whole file is, else the legacy encoding. */
async function encodingOf(file: string): Promise<string> {
  const handle = await open(file).catch((error: Error) => {
    throw new CommandError(`${file}: ${error.message}`);
  });
  const decoder = new TextDecoder('utf-8', { fatal: true });
  try {
    let first = true;
    for await (const piece of handle.createReadStream({ highWaterMark: 256 * 1024 })) {
      if (first && isBinary(piece as Buffer))
        throw new CommandError(`${file}: this is no text file`, EXIT.problems);
      first = false;
      decoder.decode(piece as Buffer, { stream: true });
    }
    decoder.decode();
    return 'utf-8';
  } catch (error) {
    if (error instanceof CommandError) throw error;
    return legacyEncoding('chess');
  } finally {
    await handle.close().catch(() => {});
  }
}
