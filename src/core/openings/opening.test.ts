import { describe, expect, it } from 'vitest';
import { openingsWith } from './all-openings';
import { familyOf, openingText, readOpening } from './opening';

const NAJDORF = {
  code: 'B90',
  name: 'Sicilian Defence, Najdorf Variation',
  japanese: 'シシリアン・ディフェンス、ナイドルフ・バリエーション',
};
const YAGURA = { code: '', name: 'Yagura', japanese: '矢倉' };

describe('an opening', () => {
  it('is stored and read back', () => {
    for (const opening of [NAJDORF, YAGURA])
      expect(readOpening(openingText(opening))).toEqual(opening);
    expect(openingText(YAGURA)).toBe('|Yagura|矢倉');
    expect(readOpening('')).toEqual({ code: '', name: '', japanese: '' });
  });

  it('is part of another', () => {
    expect(familyOf(NAJDORF)).toEqual({
      code: '',
      name: 'Sicilian Defence',
      japanese: 'シシリアン・ディフェンス',
    });
    expect(familyOf(YAGURA)).toEqual(YAGURA);
  });

  it.each([
    ['b90', openingText(NAJDORF)],
    ['NAJDORF', openingText(NAJDORF)],
    ['ナイドルフ', openingText(NAJDORF)],
    ['ﾔｸﾞﾗ', null],
    ['矢倉', openingText(YAGURA)],
    ['grunfeld', 'D80|Grünfeld Defence|グリュンフェルト・ディフェンス'],
  ])('is found by %s', (words, text) => {
    if (text === null) expect(openingsWith(words)).toEqual([]);
    else expect(openingsWith(words)).toContain(text);
  });
});
