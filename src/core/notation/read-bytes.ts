import { ReadError, type Problem } from '../game/problem';
import { isBinary } from './encoding';
import { formatKind, streamGames, type Format } from './formats';
import type { Reading } from './reading';
import { StreamDecoder } from './stream-decoder';

/** Bytes by which a format is told from others. */
const HEAD = 8192;

/** What became of a game, and what it is written in. */
export interface Read {
  reading: Reading;
  format: Format;
}

/** Something about a file as a whole. */
export const problemOfFile = (code: string, params: Problem['params'] = {}): Problem => ({
  code,
  params,
  place: { line: 1, column: 1 },
});

/**
 * Reads the games of a file whose bytes come in pieces, of which a few are held at a time.
 * @param formatOf what a text that begins like that is written in; null: nothing known
 * @throws ReadError `file.empty`, `file.binary` or `file.format`
 */
export async function* readBytes(
  bytes: AsyncIterable<Uint8Array>,
  formatOf: (beginning: string) => Format | null,
): AsyncGenerator<Read> {
  const pieces = bytes[Symbol.asyncIterator]();
  const head = await headOf(pieces);
  if (head.length === 0) throw new ReadError(problemOfFile('file.empty'));
  requireText(head);
  // whatever the game: what formats are told by is ASCII or Japanese
  const format = formatOf(new StreamDecoder('shogi').push(head));
  if (!format) throw new ReadError(problemOfFile('file.format'));
  const games = streamGames(format);
  const decoder = new StreamDecoder(formatKind(format));
  const read = function* (text: string): Generator<Read> {
    for (const reading of games.push(text)) yield { reading, format };
  };
  yield* read(decoder.push(head));
  for (let next = await pieces.next(); !next.done; next = await pieces.next()) {
    requireText(next.value);
    yield* read(decoder.push(next.value));
  }
  yield* read(decoder.end());
  for (const reading of games.end()) yield { reading, format };
}

/** How a file begins: a little of it, or all there is. */
async function headOf(pieces: AsyncIterator<Uint8Array>): Promise<Uint8Array> {
  const held: Uint8Array[] = [];
  for (let size = 0; size < HEAD; size += held.at(-1)!.length) {
    const next = await pieces.next();
    if (next.done) break;
    held.push(next.value);
  }
  return Buffer.concat(held);
}

function requireText(bytes: Uint8Array): void {
  if (isBinary(bytes)) throw new ReadError(problemOfFile('file.binary'));
}
