import { describe, expect, it } from 'vitest';
import { squareAt } from './board-geometry';
import { readSquare } from './japanese';

describe('a square in Japanese', () => {
  it.each(['７六', '76', '7六', '７６'])('%s', (text) =>
    expect(readSquare(text)).toBe(squareAt(7, 6)),
  );
  it.each(['', '7', '７', '0六', '7零', 'x六', '7x', '六'])('%j is none', (text) =>
    expect(readSquare(text)).toBe(-1),
  );
});
