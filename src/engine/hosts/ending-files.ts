import {
  closeSync,
  existsSync,
  fstatSync,
  openSync,
  readdirSync,
  readSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import {
  constants,
  crc32,
  deflateRaw,
  deflateRawSync,
  inflateRawSync,
  type ZlibOptions,
} from 'node:zlib';
import * as z from 'zod';
import { valuesName, type Aim } from '@/core/endings/aim';
import { OPEN, readValue, type Bounds, type Result } from '@/core/endings/exact';
import type { Place } from '@/core/endings/numbering';
import { setOf } from '@/core/endings/sets';
import type { Slice } from '@/core/endings/slice';

/** A slice's values, by side to move; a byte a position. */
export type SliceValues = readonly [Uint8Array, Uint8Array];

/** Values that are packed together. */
const BLOCK = 65_536;
/** Of numbers that are no position. */
export const NO_POSITION = 255;

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

/** Packs a slice. */
export function packSlice(key: string, values: SliceValues): PackedSlice {
  const packed = values.map((some) => blocksOf(some).map((block) => deflateRawSync(block)));
  return packedBy(key, packed as [Buffer[], Buffer[]]);
}

const deflate = promisify<Uint8Array, ZlibOptions, Buffer>(deflateRaw);

/** The same, less tightly and while others have their turn. */
export async function packAside(key: string, values: SliceValues): Promise<PackedSlice> {
  const packed = await Promise.all(
    values.map((some) =>
      Promise.all(blocksOf(some).map((block) => deflate(block, { level: constants.Z_BEST_SPEED }))),
    ),
  );
  return packedBy(key, packed as [Buffer[], Buffer[]]);
}

/** What is not a position takes the value before it, which packs best: nobody asks for it. */
function blocksOf(values: Uint8Array): Uint8Array[] {
  const filled = new Uint8Array(values.length);
  let last = 0;
  for (let at = 0; at < values.length; at++) {
    const value = values[at]!;
    if (value !== NO_POSITION) last = value;
    filled[at] = last;
  }
  return Array.from({ length: Math.ceil(values.length / BLOCK) }, (_, block) =>
    filled.subarray(block * BLOCK, (block + 1) * BLOCK),
  );
}

const packedBy = (key: string, blocks: readonly [Buffer[], Buffer[]]): PackedSlice => {
  const noted = (some: readonly Buffer[]): BlockNote[] =>
    some.map((packed) => [packed.length, crc32(packed)]);
  return { key, notes: [noted(blocks[0]), noted(blocks[1])], bytes: blocks.flat() };
};

/** @param name of a set, or of one slice */
export const endingFile = (folder: string, name: string): string =>
  join(folder, `${name.replaceAll(' ', '-')}.ending`);

const PROOF = '.proof';

/** The file of a proof, which has what white and what black get at least in some slices. @param key of the slice it began with */
export const proofFile = (folder: string, key: string): string =>
  join(folder, `${key.replaceAll(' ', '-')}${PROOF}`);

/** Writes the file of a set, or of one slice; it is there whole, or not at all. Returns its size. */
export const writeEndingFile = (
  folder: string,
  name: string,
  slices: readonly PackedSlice[],
): number => writeSlices(endingFile(folder, name), name, slices);

export const writeProofFile = (
  folder: string,
  key: string,
  slices: readonly PackedSlice[],
): number => writeSlices(proofFile(folder, key), key, slices);

function writeSlices(path: string, set: string, slices: readonly PackedSlice[]): number {
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
  const fresh = `${path}.${process.pid}`;
  writeFileSync(fresh, content);
  renameSync(fresh, path);
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

  /** All values of a slice. @throws DamagedEnding */
  all(key: string): SliceValues | null {
    const blocks = this.slices.get(key);
    if (!blocks) return null;
    return blocks.map((some) =>
      Buffer.concat(some.map((block) => this.read(block))),
    ) as unknown as SliceValues;
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

const otherSide = (side: 0 | 1): 0 | 1 => (side === 0 ? 1 : 0);

/** Unpacked blocks that are kept: 64 MB. */
const MOST_BLOCKS = 1024;

/** The ending tables of a folder, and what was proved besides, read as they are asked for. */
export class EndingFiles {
  private readonly files = new Map<string, EndingFile>();
  private readonly blocks = new Map<string, Uint8Array>();
  /** By names of values, the file of a proof that has them. */
  private proofs = new Map<string, EndingFile>();
  /** When the folder was last changed, as far as proofs are known. */
  private changed = 0;

  /** @param results what is known besides, without how far the mate is */
  constructor(
    private readonly folder: string,
    private readonly results: (place: Place) => Result | null = () => null,
  ) {}

  /** The value of a place; null where neither a table nor a proof has it. Of a proof, a mate may come sooner. @throws DamagedEnding */
  readonly look = (place: Place): number | null => {
    const value = this.lookInTables(place);
    if (value !== null) return value;
    const own = this.lookInProof(place, place.toMove);
    const others = this.lookInProof(place, otherSide(place.toMove));
    if (own === null || others === null) return null;
    const { result } = readValue(own);
    if (result !== readValue(others).result) return null;
    return result === 'loss' ? others : own;
  };

  /** The value of a place by the tables alone. @throws DamagedEnding */
  readonly lookInTables = (place: Place): number | null =>
    this.lookIn(this.fileOf(place.slice), place, 'exact');

  /** What is known of a place, for the side to move; null: nothing. @throws DamagedEnding */
  readonly bounds = (place: Place): Bounds | null => {
    const value = this.lookInTables(place);
    const result = value === null ? this.results(place) : readValue(value).result;
    if (result) return { least: result, most: result };
    const resultFor = (side: 0 | 1): Result | null => {
      const found = this.lookInProof(place, side);
      return found === null ? null : readValue(found).result;
    };
    const least = resultFor(place.toMove);
    const most = resultFor(otherSide(place.toMove));
    return least || most ? { least: least ?? OPEN.least, most: most ?? OPEN.most } : null;
  };

  /** Whether the values of a slice are in a file of a table. @throws DamagedEnding */
  has(slice: Slice): boolean {
    return this.fileOf(slice) !== null;
  }

  /** All values of an aim; null where no file has them. @throws DamagedEnding */
  all(slice: Slice, name: string): SliceValues | null {
    return this.fileOf(slice)?.all(slice.key) ?? this.proofNamed(name)?.all(name) ?? null;
  }

  private lookInProof(place: Place, side: 0 | 1): number | null {
    return this.lookIn(this.proofNamed(valuesName(place.slice.key, side)), place, side);
  }

  private lookIn(file: EndingFile | null, place: Place, aim: Aim): number | null {
    if (!file) return null;
    const { slice, number, toMove } = place;
    const key = valuesName(slice.key, aim);
    const block = Math.floor(number / BLOCK);
    const name = `${key} ${toMove} ${block}`;
    const known = this.blocks.get(name) ?? this.readBlock(file, key, toMove, block, name);
    return known === null ? null : known[number - block * BLOCK]!;
  }

  private readBlock(
    file: EndingFile,
    key: string,
    toMove: 0 | 1,
    block: number,
    name: string,
  ): Uint8Array | null {
    const laid = file.slices.get(key)?.[toMove][block];
    if (!laid) return null;
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

  private proofNamed(name: string): EndingFile | null {
    this.listProofs();
    return this.proofs.get(name) ?? null;
  }

  /** Looks for proofs again where the folder has changed. */
  private listProofs(): void {
    const changed = statSync(this.folder, { throwIfNoEntry: false })?.mtimeMs ?? 0;
    if (changed === this.changed) return;
    this.changed = changed;
    for (const file of new Set(this.proofs.values())) file.close();
    this.proofs = new Map();
    this.blocks.clear();
    if (changed === 0) return;
    for (const name of readdirSync(this.folder).filter((one) => one.endsWith(PROOF))) {
      const file = new EndingFile(join(this.folder, name));
      for (const key of file.slices.keys()) this.proofs.set(key, file);
    }
  }

  /** Takes a damaged file away, for it to be made anew. */
  remove({ path }: DamagedEnding): void {
    this.close();
    rmSync(path, { force: true });
  }

  close(): void {
    for (const file of new Set([...this.files.values(), ...this.proofs.values()])) file.close();
    this.files.clear();
    this.proofs.clear();
    this.blocks.clear();
    this.changed = 0;
  }
}

/** All values of the slices in the file of a set, or of one of them, by their keys; null where there is no file, or one that is damaged. */
export function readEndingFile(folder: string, set: string): Map<string, SliceValues> | null {
  if (!existsSync(endingFile(folder, set))) return null;
  try {
    const file = new EndingFile(endingFile(folder, set));
    try {
      return new Map([...file.slices.keys()].map((key) => [key, file.all(key)!]));
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
