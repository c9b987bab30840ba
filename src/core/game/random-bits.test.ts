import fc from 'fast-check';
import { expect, it } from 'vitest';
import { GAME_KINDS } from './ruleset';
import { rulesetOf } from '../rulesets';
import { joinKey } from './random-bits';

it('a key has its higher half first, whatever the signs of the halves', () => {
  expect(joinKey(0x01234567, 0x09abcdef)).toBe(0x0123456709abcdefn);
  const half = fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 });
  fc.assert(
    fc.property(half, half, (high, low) => {
      const unsigned = (part: number): bigint => BigInt.asUintN(32, BigInt(part));
      expect(joinKey(high, low)).toBe((unsigned(high) << 32n) | unsigned(low));
    }),
  );
});

it('keys of positions stay what they were: they are stored', () => {
  const keys = GAME_KINDS.map((kind) => {
    const ruleset = rulesetOf(kind);
    return ruleset.key(ruleset.start()).toString(16);
  });
  expect(keys).toEqual(['9d02992706c010b4', '15b52305cd7f5bc4']);
});
