import {
  closeSync,
  existsSync,
  fstatSync,
  openSync,
  readSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { crc32, deflateRawSync, inflateRawSync } from 'node:zlib';
import * as z from 'zod';
import type { Place } from '@/core/endings/numbering';
import { setOf } from '@/core/endings/sets';
import type { Slice } from '@/core/endings/slice';

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

/** @param name of a set, or of one slice */
export const endingFile = (folder: string, name: string): string =>
  join(folder, `${name.replaceAll(' ', '-')}.ending`);

/** Writes the file of a set, or of one slice; it is there whole, or not at all. Returns its size. */
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
export class DamagedEnding extends Error {
  constructor(readonly path: string) {
    super(`${path} is damaged`);
  }
}

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

  /** Whether it is as long as its head says. */
  isWhole(): boolean {
    const last = [...this.slices.values()].at(-1)?.[1].at(-1);
    return last !== undefined && fstatSync(this.file).size === last.at + last.bytes;
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
  private readonly files = new Map<string, EndingFile>();
  private readonly blocks = new Map<string, Uint8Array>();

  constructor(private readonly folder: string) {}

  /** The value of a place; null where there is no table for it. @throws DamagedEnding */
  readonly look = ({ slice, number, toMove }: Place): number | null => {
    const block = Math.floor(number / BLOCK);
    const name = `${slice.key} ${toMove} ${block}`;
    const known = this.blocks.get(name) ?? this.readBlock(slice, toMove, block, name);
    return known === null ? null : known[number - block * BLOCK]!;
  };

  /** Whether the values of a slice are in a file. @throws DamagedEnding */
  has(slice: Slice): boolean {
    return this.fileOf(slice) !== null;
  }

  private readBlock(slice: Slice, toMove: 0 | 1, block: number, name: string): Uint8Array | null {
    const file = this.fileOf(slice);
    const laid = file?.slices.get(slice.key)?.[toMove][block];
    if (!file || !laid) return null;
    const values = file.read(laid);
    if (this.blocks.size >= MOST_BLOCKS) this.blocks.delete(this.blocks.keys().next().value!);
    this.blocks.set(name, values);
    return values;
  }

  /** That of its set, or its own. */
  private fileOf(slice: Slice): EndingFile | null {
    return this.open(setOf(slice)) ?? this.open(slice.key);
  }

  private open(name: string): EndingFile | null {
    const known = this.files.get(name);
    if (known) return known;
    const path = endingFile(this.folder, name);
    // one that is not there may come
    if (!existsSync(path)) return null;
    const file = new EndingFile(path);
    this.files.set(name, file);
    return file;
  }

  /** Takes a damaged file away, for it to be made anew. */
  remove({ path }: DamagedEnding): void {
    this.close();
    this.blocks.clear();
    rmSync(path, { force: true });
  }

  close(): void {
    for (const file of this.files.values()) file.close();
    this.files.clear();
  }
}

/** All values of the slices in the file of a set, or of one of them, by their keys; null where there is no file, or one that is damaged. */
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

/** Whether a set's file is there and as long as it says; what is damaged inside is noticed when it is read. */
export function isEndingThere(folder: string, set: string): boolean {
  const path = endingFile(folder, set);
  if (!existsSync(path)) return false;
  try {
    const file = new EndingFile(path);
    try {
      return file.isWhole();
    } finally {
      file.close();
    }
  } catch {
    return false;
  }
}
