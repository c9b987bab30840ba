import { describe, expect, it } from 'vitest';
import { SIGN_OF_NAG } from '@/core/review/verdict';
import { nagOfKeys, SYMBOLS } from './symbols';

describe('signs that are typed', () => {
  it('mean one symbol alone and another together', () => {
    expect(nagOfKeys('', '!')).toBe(1);
    expect(nagOfKeys('!', '?')).toBe(5);
    expect(nagOfKeys('?', '!')).toBe(6);
    expect(nagOfKeys('?', '?')).toBe(4);
    expect(nagOfKeys('=', '!')).toBe(1);
    expect(nagOfKeys('', 'q')).toBeNull();
  });

  it('look like the symbol that they set', () => {
    for (const { nag, key } of SYMBOLS)
      if (key !== null && key !== 'o') expect(SIGN_OF_NAG[nag]).toBe(key);
  });
});
