import fc from 'fast-check';
import iconv from 'iconv-lite';
import { describe, expect, it } from 'vitest';
import { decodeText } from './encoding';
import { StreamDecoder } from './stream-decoder';

function decoded(kind: 'chess' | 'shogi', pieces: readonly Uint8Array[]): string {
  const decoder = new StreamDecoder(kind);
  return pieces.map((piece) => decoder.push(piece)).join('') + decoder.end();
}

/** Bytes cut at some places. */
const cut = (bytes: Uint8Array, places: readonly number[]): Uint8Array[] => {
  const ends = [...new Set([...places.map((place) => place % (bytes.length + 1)), bytes.length])];
  ends.sort((a, b) => a - b);
  return ends.map((end, index) => bytes.subarray(index === 0 ? 0 : ends[index - 1], end));
};

describe('text that comes in pieces', () => {
  it('is the same wherever it is cut, as UTF-8', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary', maxLength: 40 }),
        fc.array(fc.nat(), { maxLength: 8 }),
        (text, places) => {
          const bytes = new TextEncoder().encode(text.toWellFormed());
          expect(decoded('chess', cut(bytes, places))).toBe(decodeText(bytes, 'chess'));
        },
      ),
    );
  });

  it.each([
    ['chess', 'Müller – “Zoë” é', 'windows-1252'],
    ['shogi', '先手：佐倉 結 ７六歩', 'shift_jis'],
  ] as const)(
    'is read in the legacy encoding of %s, wherever it is cut',
    (kind, text, encoding) => {
      const plain = new TextEncoder().encode('[Event "x"] ');
      const legacy = iconv.encode(text, encoding);
      const bytes = Buffer.concat([plain, legacy]);
      const whole = `[Event "x"] ${text}`;
      expect(decodeText(bytes, kind)).toBe(whole);
      for (let place = 0; place <= bytes.length; place++)
        for (const second of [0, plain.length, bytes.length])
          expect(decoded(kind, cut(bytes, [place, second])), `${place}`).toBe(whole);
    },
  );

  it('loses a byte order mark, and keeps what ends in the middle of a character', () => {
    expect(decoded('chess', [Buffer.from([0xef]), Buffer.from([0xbb, 0xbf, 0x61])])).toBe('a');
    expect(decoded('chess', [Buffer.from([0x61, 0xc3])])).toBe('aÃ');
    expect(decoded('chess', [])).toBe('');
  });
});
