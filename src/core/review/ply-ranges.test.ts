import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pliesIn, plyRanges } from './ply-ranges';

describe('plies as ranges', () => {
  it.each([
    [[], ''],
    [[0], '0'],
    [[0, 1], '0-1'],
    [[0, 1, 2, 7, 12, 13], '0-2.7.12-13'],
    [[3, 5, 7], '3.5.7'],
  ])('%j: %s', (plies, text) => expect(plyRanges(plies)).toBe(text));

  it('hold the same plies when they are read', () =>
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(60)), (some) => {
        const plies = some.toSorted((a, b) => a - b);
        const holds = pliesIn(plyRanges(plies));
        for (let ply = 0; ply <= 62; ply++) expect(holds(ply)).toBe(plies.includes(ply));
      }),
    ));
});
