import { describe, expect, it } from 'vitest';
import { ReadError } from '../game/problem';
import { encodeShiftJis } from './encoding';
import { formatOfText, type Format } from './formats';
import { readBytes } from './read-bytes';
import { isRead } from './reading';

async function* cut(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size)
    yield await Promise.resolve(bytes.subarray(at, at + size));
}

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

async function read(
  bytes: Uint8Array,
  size = 1000,
  formatOf: (beginning: string) => Format | null = formatOfText,
): Promise<string[]> {
  const games: string[] = [];
  for await (const { reading, format } of readBytes(cut(bytes, size), formatOf))
    games.push(
      `${format}: ${isRead(reading) ? reading.record.tags.map(({ value }) => value).join(' ') : reading.problem.code}`,
    );
  return games;
}

const problemOf = (bytes: Uint8Array, size?: number): Promise<unknown> =>
  read(bytes, size).then(
    () => null,
    (error: unknown) => error instanceof ReadError && error.problem.code,
  );

const GAME = '手合割：平手\n先手：山田\n   1 ７六歩(77)\n';

describe('a file that comes in pieces', () => {
  it.each([1, 2, 3, 7, 100_000])(
    'is told by how it begins and read, in pieces of %d bytes',
    async (size) => {
      const kif = ['kif: 山田', 'kif: 山田'];
      expect(await read(bytesOf(GAME + GAME), size)).toEqual(kif);
      expect(await read(encodeShiftJis(GAME + GAME), size)).toEqual(kif);
      expect(await read(bytesOf('[White "Zoë"]\n\n1. e4 *\n'), size)).toEqual(['pgn: Zoë']);
    },
  );

  it('is read in the format that it is said to be in', async () => {
    expect(await read(bytesOf('1. e4 e9 *'), 3, () => 'pgn')).toEqual(['pgn: move.malformed']);
  });

  it('is no file of games where it is empty, no text, or like nothing known', async () => {
    expect(await problemOf(bytesOf(''))).toBe('file.empty');
    expect(await problemOf(Uint8Array.of(0x89, 0x50, 0, 1))).toBe('file.binary');
    expect(await problemOf(bytesOf('Dear all,\nsee you on Monday.\n'))).toBe('file.format');
  });

  it('is read as far as it is text', async () => {
    const games: unknown[] = [];
    const bytes = bytesOf(`${GAME.repeat(400)}\0`);
    await expect(async () => {
      for await (const { reading } of readBytes(cut(bytes, 8192), formatOfText))
        games.push(reading);
    }).rejects.toThrow('file.binary');
    expect(games.length).toBeGreaterThan(200);
  });
});
