import { Readable, type Transform } from 'node:stream';
import * as zlib from 'node:zlib';
import { Unzip, UnzipInflate, UnzipPassThrough, type UnzipFile } from 'fflate';

/** One file of what was sent, as its bytes come. */
export interface PackedFile {
  name: string;
  bytes: AsyncIterable<Uint8Array>;
  /** It may be one of several. */
  isAmong: boolean;
}

/** Why what was sent can't be unpacked; the code of a problem. */
export class UnpackError extends Error {
  constructor(readonly code: 'file.damaged' | 'file.bomb' | 'file.locked' | 'file.zstd') {
    super(code);
  }
}

type Bytes = AsyncIterable<Uint8Array>;

/** Bytes of an archive that are unpacked at a time: at most a thousand times as many come of them. */
const SLICE = 16 * 1024;

/** What unpacks zstd; null: this version of Node doesn't. */
const { createZstdDecompress: ZSTD = null } = zlib as {
  createZstdDecompress?: () => Transform;
};

/**
 * The files in what was sent: one, or those of a ZIP archive; what is packed with gzip or zstd is unpacked. Each is to be read to its end before the
 * next is asked for.
 * @param most bytes that may come out in all
 * @throws UnpackError from wherever it is read
 */
export async function* filesIn(
  name: string,
  sent: Bytes,
  most: number,
  zstd: (() => Transform) | null = ZSTD,
): AsyncGenerator<PackedFile> {
  const [head, bytes] = await beginning(sent);
  const counted = limited(most);
  const single = (ending: RegExp, unpacker: Transform): PackedFile => ({
    name: name.replace(ending, ''),
    bytes: counted(through(unpacker, bytes)),
    isAmong: false,
  });
  if (startsWith(head, [0x1f, 0x8b])) yield single(/\.gz$/i, zlib.createGunzip());
  else if (startsWith(head, [0x28, 0xb5, 0x2f, 0xfd])) {
    if (!zstd) throw new UnpackError('file.zstd');
    yield single(/\.zst$/i, zstd());
  } else if (startsWith(head, [0x50, 0x4b, 3, 4])) yield* unzipped(bytes, counted);
  else yield { name, bytes, isAmong: false };
}

const startsWith = (bytes: Uint8Array, sign: readonly number[]): boolean =>
  sign.every((byte, index) => bytes[index] === byte);

/** The first few bytes, and all of them. */
async function beginning(sent: Bytes): Promise<[head: Uint8Array, all: Bytes]> {
  const iterator = sent[Symbol.asyncIterator]();
  let head: Uint8Array = new Uint8Array();
  let isOver = false;
  while (head.length < 4 && !isOver) {
    const next = await iterator.next();
    isOver = next.done === true;
    if (!next.done) head = Buffer.concat([head, next.value]);
  }
  const all = async function* (): AsyncGenerator<Uint8Array> {
    if (head.length > 0) yield head;
    if (!isOver) yield* { [Symbol.asyncIterator]: () => iterator };
  };
  return [head, all()];
}

/** Lets through so many bytes in all, of whatever files. */
function limited(most: number): (bytes: Bytes) => Bytes {
  let count = 0;
  return async function* (bytes) {
    for await (const piece of bytes) {
      count += piece.length;
      if (count > most) throw new UnpackError('file.bomb');
      yield piece;
    }
  };
}

async function* through(unpacker: Transform, bytes: Bytes): AsyncGenerator<Uint8Array> {
  const source = Readable.from(bytes);
  source.on('error', (error) => unpacker.destroy(error));
  try {
    for await (const piece of source.pipe(unpacker)) yield piece as Uint8Array;
  } catch (error) {
    throw isZlibError(error) ? new UnpackError('file.damaged') : error;
  }
}

const isZlibError = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && /^(?:Z|ZSTD)_/.test(String(error.code));

async function* unzipped(
  sent: Bytes,
  counted: (bytes: Bytes) => Bytes,
): AsyncGenerator<PackedFile> {
  /** What has been found in the archive and not been read yet. */
  const found: { name: string; pieces: Uint8Array[]; isOver: boolean }[] = [];
  let problem: UnpackError | null = null;
  const unzip = new Unzip((file: UnzipFile) => {
    if (file.name.endsWith('/')) return;
    const entry = { name: file.name.split('/').at(-1)!, pieces: [] as Uint8Array[], isOver: false };
    found.push(entry);
    file.ondata = (error, piece, isLast) => {
      if (error) problem ??= new UnpackError('file.damaged');
      else if (piece.length > 0) entry.pieces.push(piece);
      entry.isOver = isLast || error !== null;
    };
    try {
      file.start();
    } catch {
      problem ??= new UnpackError('file.locked');
    }
  });
  unzip.register(UnzipPassThrough);
  unzip.register(UnzipInflate);
  const slices = slicesOf(sent)[Symbol.asyncIterator]();
  let isOver = false;
  /** Goes on with the archive. */
  const more = async (): Promise<void> => {
    const next = await slices.next();
    isOver = next.done === true;
    try {
      unzip.push(next.done ? new Uint8Array() : next.value, isOver);
    } catch {
      problem ??= new UnpackError('file.damaged');
    }
    if (problem) throw problem;
  };
  for (;;) {
    const entry = found.shift();
    if (entry) {
      yield {
        name: entry.name,
        isAmong: true,
        bytes: counted(
          (async function* () {
            for (;;) {
              const piece = entry.pieces.shift();
              if (piece) yield piece;
              else if (entry.isOver) return;
              else if (isOver) throw new UnpackError('file.damaged');
              else await more();
            }
          })(),
        ),
      };
    } else if (isOver) return;
    else await more();
  }
}

async function* slicesOf(bytes: Bytes): AsyncGenerator<Uint8Array> {
  for await (const piece of bytes)
    for (let from = 0; from < piece.length; from += SLICE) yield piece.subarray(from, from + SLICE);
}
