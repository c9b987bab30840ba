import fc from 'fast-check';
import { expect, it } from 'vitest';
import { folded } from './folded';

it.each([
  ['Vlašek', 'vlasek'],
  ['Łódź', 'lodz'],
  ['Strauß', 'STRAUSS'],
  ['Ørsted', 'orsted'],
  ['Ｔａｎａｋａ', 'tanaka'],
  ['サクラ', 'さくら'],
  ['ｻｸﾗ', 'サクラ'],
  ['Ｇ２', 'g2'],
])('%s is found by %s', (name, typed) => {
  expect(folded(name)).toBe(folded(typed));
});

it.each([
  ['か', 'が'],
  ['は', 'ぱ'],
  ['a', 'b'],
])('%s is not %s', (one, other) => {
  expect(folded(one)).not.toBe(folded(other));
});

it('plain letters are folded as they are among others', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary-ascii' }), (text) => {
      expect(`${folded(text)}e`).toBe(folded(`${text}é`));
    }),
  );
});
