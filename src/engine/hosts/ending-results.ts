import { existsSync, readFileSync } from 'node:fs';
import { brotliCompressSync, brotliDecompressSync, constants, crc32 } from 'node:zlib';
import * as z from 'zod';
import { readValue, type Result } from '@/core/endings/exact';
import type { Place } from '@/core/endings/numbering';
import { setOf, slicesOf } from '@/core/endings/sets';
import { sizeOf } from '@/core/endings/slice';
import { NO_POSITION, readEndingFile, type SliceValues } from './ending-files';

const headSchema = z.object({
  format: z.literal('bektra-ending-results'),
  version: z.literal(1),
  sets: z.array(z.object({ set: z.string(), bytes: z.number().int().positive(), crc: z.number() })),
});

/** By their numbers in the file, of which four are a byte. */
const RESULTS = ['draw', 'win', 'loss'] as const;
const NUMBER_OF = Uint8Array.from({ length: NO_POSITION }, (_, value) =>
  RESULTS.indexOf(readValue(value).result),
);

/**
 * Packs the results alone of sets, without how far the mate is.
 * @param folder where their tables are
 * @throws Error where one is not there, or damaged
 */
export function packResults(folder: string, sets: readonly string[]): Buffer {
  const packed = sets.map((set) => {
    const values = readEndingFile(folder, set);
    if (!values) throw new Error(`${set} is not in ${folder}`);
    return brotliCompressSync(resultsOf(slicesOf(set).map(({ key }) => values.get(key)!)), {
      params: { [constants.BROTLI_PARAM_LGWIN]: constants.BROTLI_MAX_WINDOW_BITS },
    });
  });
  const head = {
    format: 'bektra-ending-results',
    version: 1,
    sets: sets.map((set, at) => ({ set, bytes: packed[at]!.length, crc: crc32(packed[at]!) })),
  };
  return Buffer.concat([Buffer.from(`${JSON.stringify(head)}\n`), ...packed]);
}

/** Slice after slice, each with white to move and with black. What is no position takes the result before it, which packs best. */
function resultsOf(slices: readonly SliceValues[]): Uint8Array {
  const all = slices.flat();
  const found = new Uint8Array(all.reduce((sum, { length }) => sum + length, 0) / 4);
  let at = 0;
  let last = 0;
  for (const values of all)
    for (const value of values) {
      if (value !== NO_POSITION) last = NUMBER_OF[value]!;
      found[at >> 2]! |= last << (2 * (at & 3));
      at++;
    }
  return found;
}

/** Where the results of a set lie in its unpacked bytes. */
interface Unpacked {
  results: Uint8Array;
  /** By slices, of their first position. */
  starts: ReadonlyMap<string, number>;
}

/** Won, drawn or lost, without how far the mate is: what ships with the app, and answers until the tables are made. */
export class EndingResults {
  private packed: Map<string, Buffer> | null = null;
  private readonly unpacked = new Map<string, Unpacked | null>();

  /** @param pieces up to which it answers, kings among them */
  constructor(
    private readonly path: string,
    private readonly pieces: number,
  ) {}

  /** The result of a place, for the side to move; null where it is not known. */
  readonly look = ({ slice, number, toMove }: Place): Result | null => {
    if (slice.men.length + 2 > this.pieces) return null;
    const set = setOf(slice);
    const known = this.unpacked.get(set) ?? this.unpack(set);
    this.unpacked.set(set, known);
    const start = known?.starts.get(slice.key);
    if (!known || start === undefined) return null;
    const at = start + toMove * sizeOf(slice) + number;
    return RESULTS[(known.results[at >> 2]! >> (2 * (at & 3))) & 3]!;
  };

  private unpack(set: string): Unpacked | null {
    this.packed ??= readPacked(this.path);
    const packed = this.packed.get(set);
    if (!packed) return null;
    const starts = new Map<string, number>();
    let next = 0;
    for (const slice of slicesOf(set)) {
      starts.set(slice.key, next);
      next += 2 * sizeOf(slice);
    }
    return { results: brotliDecompressSync(packed), starts };
  }
}

/** By their sets; those that are damaged are left out. */
function readPacked(path: string): Map<string, Buffer> {
  const found = new Map<string, Buffer>();
  if (!existsSync(path)) return found;
  const content = readFileSync(path);
  let at = content.indexOf(10) + 1;
  const { sets } = headSchema.parse(JSON.parse(content.subarray(0, at).toString()));
  for (const { set, bytes, crc } of sets) {
    const packed = content.subarray(at, (at += bytes));
    if (crc32(packed) === crc) found.set(set, packed);
  }
  return found;
}
