import { inflateRawSync } from 'node:zlib';

const END = 0x06054b50;
const ENTRY = 0x02014b50;
const DEFLATED = 8;

/** The files of a ZIP file by name, as text. @throws where it is cut off */
export function unzipped(zip: Buffer): Map<string, string> {
  const end = zip.lastIndexOf(Buffer.from([0x50, 0x4b, 0x05, 0x06]));
  if (end < 0 || zip.readUInt32LE(end) !== END) throw new Error('no end');
  const files = new Map<string, string>();
  let at = zip.readUInt32LE(end + 16);
  for (let left = zip.readUInt16LE(end + 10); left > 0; left--) {
    if (zip.readUInt32LE(at) !== ENTRY) throw new Error(`no entry at ${at}`);
    const method = zip.readUInt16LE(at + 10);
    const size = zip.readUInt32LE(at + 20);
    const lengths = [28, 30, 32].map((offset) => zip.readUInt16LE(at + offset));
    const name = zip.toString('utf8', at + 46, at + 46 + lengths[0]!);
    const local = zip.readUInt32LE(at + 42);
    const start = local + 30 + zip.readUInt16LE(local + 26) + zip.readUInt16LE(local + 28);
    const packed = zip.subarray(start, start + size);
    files.set(name, (method === DEFLATED ? inflateRawSync(packed) : packed).toString('utf8'));
    at += 46 + lengths.reduce((sum, length) => sum + length, 0);
  }
  return files;
}
