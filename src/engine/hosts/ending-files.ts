import { closeSync, existsSync, openSync, readSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { crc32, deflateRawSync, inflateRawSync } from 'node:zlib';
import * as z from 'zod';
import type { Place } from '@/core/endings/numbering';
import { setOf } from '@/core/endings/sets';

/** A slice's values, by side to move; a byte a position. */
export type SliceValues = readonly [Uint8Array, Uint8Array];

/** Values that are packed together. */
const BLOCK = 65_536;
const NO_POSITION = 255;

/** Length and checksum of a block as it lies in the file. */
type BlockNote = readonly [bytes: number, crc: number];

/** A slice as it is written: its blocks, and what they are. */
export interface PackedSlice {
  key: string;
  notes: readonly [readonly BlockNote[], readonly BlockNote[]];
  bytes: readonly Uint8Array[];
}

const notesSchema = z.array(z.tuple([z.number().int().positive(), z.number().int()]));
const headSchema = z.object({
  format: z.literal('bektra-ending'),
  version: z.literal(1),
  set: z.string(),
  slices: z.array(
    z.object({
      key: z.string(),
      blocks: z.tuple([notesSchema, notesSchema]),
    }),
  ),
});

/** Packs a slice. What is not a position takes the value before it, which packs best: nobody asks for it. */
export function packSlice(key: string, values: SliceValues): PackedSlice {
  const bytes: Uint8Array[] = [];
  const notes = values.map((some) => {
    const filled = new Uint8Array(some.length);
    let last = 0;
    for (let at = 0; at < some.length; at++) {
      const value = some[at]!;
      if (value !== NO_POSITION) last = value;
      filled[at] = last;
    }
    return Array.from({ length: Math.ceil(some.length / BLOCK) }, (_, block): BlockNote => {
      const packed = deflateRawSync(filled.subarray(block * BLOCK, (block + 1) * BLOCK), {
        level: 6,
      });
      bytes.push(packed);
      return [packed.length, crc32(packed)];
    });
  }) as [BlockNote[], BlockNote[]];
  return { key, notes, bytes };
}

export const endingFile = (folder: string, set: string): string => join(folder, `${set}.ending`);

/** Writes a set's file; it is there whole, or not at all. Returns its size. */
export function writeEndingFile(
  folder: string,
  set: string,
  slices: readonly PackedSlice[],
): number {
  const head = {
    format: 'bektra-ending',
    version: 1,
    set,
    slices: slices.map(({ key, notes }) => ({ key, blocks: notes })),
  };
  const content = Buffer.concat([
    Buffer.from(`${JSON.stringify(head)}\n`),
    ...slices.flatMap(({ bytes }) => bytes),
  ]);
  const fresh = `${endingFile(folder, set)}.${process.pid}`;
  writeFileSync(fresh, content);
  renameSync(fresh, endingFile(folder, set));
  return content.length;
}

/** Where a block lies. */
interface LaidBlock {
  at: number;
  bytes: number;
  crc: number;
}

/** A file that is not as it was written. */
export class DamagedEnding extends Error {}

type Head = z.infer<typeof headSchema>;

const HEAD_PIECE = 65_536;

/** The head of an open file, and where what it describes begins. */
function readHead(file: number): { head: Head; end: number } {
  const pieces: Buffer[] = [];
  for (let at = 0; ; at += HEAD_PIECE) {
    const piece = Buffer.alloc(HEAD_PIECE);
    const read = readSync(file, piece, 0, HEAD_PIECE, at);
    const end = piece.subarray(0, read).indexOf(10);
    pieces.push(piece.subarray(0, end < 0 ? read : end));
    if (end >= 0) {
      const head = headSchema.parse(JSON.parse(Buffer.concat(pieces).toString()));
      return { head, end: at + end + 1 };
    }
    if (read < HEAD_PIECE) throw new Error('it has no head');
  }
}

class EndingFile {
  /** By their keys, the blocks of each side to move. */
  readonly slices = new Map<string, readonly [readonly LaidBlock[], readonly LaidBlock[]]>();
  private readonly file: number;

  /** @throws DamagedEnding */
  constructor(private readonly path: string) {
    this.file = openSync(path, 'r');
    try {
      const { head, end } = readHead(this.file);
      let at = end;
      const lay = (notes: readonly BlockNote[]): LaidBlock[] =>
        notes.map(([bytes, crc]) => ({ at: (at += bytes) - bytes, bytes, crc }));
      for (const { key, blocks } of head.slices)
        this.slices.set(key, [lay(blocks[0]), lay(blocks[1])]);
    } catch {
      this.close();
      throw new DamagedEnding(path);
    }
  }

  /** @throws DamagedEnding */
  read({ at, bytes, crc }: LaidBlock): Uint8Array {
    const packed = Buffer.alloc(bytes);
    if (readSync(this.file, packed, 0, bytes, at) < bytes || crc32(packed) !== crc)
      throw new DamagedEnding(this.path);
    return inflateRawSync(packed);
  }

  close(): void {
    closeSync(this.file);
  }
}

/** Unpacked blocks that are kept: 64 MB. */
const MOST_BLOCKS = 1024;

/** The ending tables of a folder, read as they are asked for. */
export class EndingFiles {
  private readonly files = new Map<string, EndingFile | null>();
  private readonly blocks = new Map<string, Uint8Array>();

  constructor(private readonly folder: string) {}

  /** The value of a place; null where there is no table for it. @throws DamagedEnding */
  readonly look = ({ slice, number, toMove }: Place): number | null => {
    const block = Math.floor(number / BLOCK);
    const name = `${slice.key} ${toMove} ${block}`;
    const known =
      this.blocks.get(name) ?? this.readBlock(slice.key, setOf(slice), toMove, block, name);
    return known === null ? null : known[number - block * BLOCK]!;
  };

  private readBlock(
    key: string,
    set: string,
    toMove: 0 | 1,
    block: number,
    name: string,
  ): Uint8Array | null {
    const file = this.open(set);
    const laid = file?.slices.get(key)?.[toMove][block];
    if (!file || !laid) return null;
    const values = file.read(laid);
    if (this.blocks.size >= MOST_BLOCKS) this.blocks.delete(this.blocks.keys().next().value!);
    this.blocks.set(name, values);
    return values;
  }

  private open(set: string): EndingFile | null {
    const known = this.files.get(set);
    if (known !== undefined) return known;
    const path = endingFile(this.folder, set);
    const file = existsSync(path) ? new EndingFile(path) : null;
    this.files.set(set, file);
    return file;
  }

  close(): void {
    for (const file of this.files.values()) file?.close();
    this.files.clear();
  }
}

/** All values of a set's slices, by their keys; null where there is no file, or one that is damaged. */
export function readEndingFile(folder: string, set: string): Map<string, SliceValues> | null {
  if (!existsSync(endingFile(folder, set))) return null;
  try {
    const file = new EndingFile(endingFile(folder, set));
    try {
      return new Map(
        [...file.slices].map(([key, blocks]) => [
          key,
          blocks.map((some) =>
            Buffer.concat(some.map((block) => file.read(block))),
          ) as unknown as SliceValues,
        ]),
      );
    } finally {
      file.close();
    }
  } catch {
    return null;
  }
}
