import { describe, expect, it } from 'vitest';
import { isPlainText, trimBlank, trimSpaces } from './text';

describe('text', () => {
  it.each([
    ['plain', true],
    ['将棋 ♔ 🂡', true],
    ['a\0b', false],
    ['\ud800', false],
    ['\udc00\ud800', false],
  ])('%j can be stored: %s', (text, plain) => expect(isPlainText(text)).toBe(plain));

  it('is trimmed of spaces, tabs and line breaks, not of an indent', () => {
    expect(trimBlank('\r\n\t a b \t\r\n')).toBe('a b');
    expect(trimBlank('\n　a\n')).toBe('　a');
    expect(trimSpaces('\t a \n')).toBe('a \n');
    expect(trimBlank(' \n ')).toBe('');
  });
});
