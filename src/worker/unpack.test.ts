import { randomBytes } from 'node:crypto';
import { Transform } from 'node:stream';
import * as zlib from 'node:zlib';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { filesIn, UnpackError } from './unpack';

const { gzipSync } = zlib;
const MOST = 50_000_000;

async function* inPieces(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  for (let from = 0; from < bytes.length; from += size) yield bytes.subarray(from, from + size);
}

async function unpacked(
  name: string,
  bytes: Uint8Array,
  size = 1000,
  most = MOST,
  zstd?: (() => Transform) | null,
) {
  const files: [string, string][] = [];
  for await (const file of filesIn(name, inPieces(bytes, size), most, zstd)) {
    const pieces: Uint8Array[] = [];
    for await (const piece of file.bytes) pieces.push(piece);
    files.push([file.name, Buffer.concat(pieces).toString('latin1')]);
  }
  return files;
}

const text = (bytes: Uint8Array): string => Buffer.from(bytes).toString('latin1');
const BIG = randomBytes(200_000);
const SMALL = Buffer.from('1. e4 e5 *');

describe('what is sent', () => {
  it.each([1, 3, 1000, 1_000_000])('is one file as it is, in pieces of %d bytes', async (size) => {
    expect(await unpacked('a.pgn', SMALL, size)).toEqual([['a.pgn', text(SMALL)]]);
  });

  it('is nothing where nothing was sent', async () => {
    expect(await unpacked('a.pgn', new Uint8Array())).toEqual([['a.pgn', '']]);
  });

  it.each([1, 7, 1000, 1_000_000])('is unpacked, in pieces of %d bytes', async (size) => {
    const bytes = size === 1 ? SMALL : BIG;
    expect(await unpacked('a.pgn.gz', gzipSync(bytes), size)).toEqual([['a.pgn', text(bytes)]]);
    const zip = zipSync({
      'x/a.pgn': [SMALL, { level: 0 }],
      'b.kif': bytes,
      'x/y/': new Uint8Array(),
    });
    expect(await unpacked('all.zip', zip, size)).toEqual([
      ['a.pgn', text(SMALL)],
      ['b.kif', text(bytes)],
    ]);
  });

  it('is unpacked from zstd where Node can, and else told what to do', async () => {
    const magic = [0x28, 0xb5, 0x2f, 0xfd];
    const packed = Buffer.concat([Buffer.from(magic), SMALL]);
    await expect(unpacked('a.pgn.zst', packed, 7, MOST, null)).rejects.toThrow('file.zstd');
    /** As little of zstd as there is in a file of ours. */
    const withoutMagic = (): Transform => {
      let before = magic.length;
      return new Transform({
        transform: (piece: Buffer, _, done) => {
          done(null, piece.subarray(before));
          before = Math.max(0, before - piece.length);
        },
      });
    };
    const read = (bytes: Uint8Array, most = MOST) =>
      unpacked('a.pgn.zst', bytes, 7, most, withoutMagic);
    expect(await read(packed)).toEqual([['a.pgn', text(SMALL)]]);
    await expect(read(packed, SMALL.length - 1)).rejects.toThrow('file.bomb');

    const { zstdCompressSync } = zlib as { zstdCompressSync?: (bytes: Uint8Array) => Uint8Array };
    if (!zstdCompressSync) return;
    expect(await unpacked('a.pgn.zst', zstdCompressSync(BIG))).toEqual([['a.pgn', text(BIG)]]);
    const broken = zstdCompressSync(BIG).subarray(0, 150_000);
    await expect(unpacked('a.zst', broken)).rejects.toThrow('file.damaged');
  });

  it('is no bomb', async () => {
    const zeros = new Uint8Array(40_000_000);
    const zip = zipSync({ 'a.pgn': zeros, 'b.pgn': zeros });
    await expect(unpacked('a.zip', zip)).rejects.toThrow('file.bomb');
    await expect(unpacked('a.gz', gzipSync(zeros), 1000, 39_999_999)).rejects.toThrow('file.bomb');
    expect((await unpacked('a.gz', gzipSync(zeros), 1000, 40_000_000))[0]![1]).toHaveLength(
      40_000_000,
    );
  });

  it('is told to be damaged where it breaks off, behind what came before', async () => {
    const gz = gzipSync(BIG);
    await expect(unpacked('a.gz', gz.subarray(0, 150_000))).rejects.toThrow(UnpackError);
    const zip = zipSync({ 'a.pgn': SMALL, 'b.pgn': BIG });
    const seen: string[] = [];
    const read = async () => {
      for await (const { name, bytes } of filesIn(
        'a.zip',
        inPieces(zip.subarray(0, 150_000), 999),
        MOST,
      )) {
        for await (const _ of bytes);
        seen.push(name);
      }
    };
    await expect(read()).rejects.toThrow('file.damaged');
    expect(seen).toEqual(['a.pgn']);
    const wrong = Uint8Array.from(gz);
    wrong.fill(0xff, 100, 200);
    await expect(unpacked('a.gz', wrong)).rejects.toThrow('file.damaged');
  });
});
