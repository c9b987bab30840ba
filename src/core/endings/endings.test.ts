import { describe, expect, it } from 'vitest';
import { placeOf } from './numbering';
import { setOf, setsOf, slicesOf } from './sets';
import { place, sizeOf, waysOut, type Man } from './slice';
import { readValue } from './exact';

describe('sets of an ending', () => {
  it('are five of three pieces and thirty of four, the stronger side first', () => {
    expect(setsOf(3)).toEqual(['KBK', 'KNK', 'KPK', 'KQK', 'KRK']);
    const four = setsOf(4);
    expect(four).toHaveLength(30);
    expect(four).toContain('KBNK');
    expect(four).toContain('KRKP');
    expect(four).not.toContain('KPKR');
  });

  it('without pawns are one slice, with pawns one for each place of them that is no mirror image', () => {
    expect(slicesOf('KQKR').map(({ key }) => key)).toEqual(['KQKR']);
    expect(slicesOf('KRKP')).toHaveLength(24);
    // of 1,128 pairs of squares those that are their own mirror image are none of their own
    expect(slicesOf('KPPK')).toHaveLength(576);
    // the sides may be exchanged too
    expect(slicesOf('KPKP').length).toBeLessThan(600);
    expect(slicesOf('KPPK').every((slice) => setOf(slice) === 'KPPK')).toBe(true);
  });

  it('know the ways out of a slice', () => {
    const [slice] = slicesOf('KPK').filter(({ key }) => key === 'KPK a2');
    const names = waysOut(slice!).map(({ placing }) => placing?.slice.key ?? null);
    // captured, one step, two
    expect(names).toEqual([null, 'KPK a3', 'KPK a4']);
    const [last] = slicesOf('KPK').filter(({ key }) => key === 'KPK b7');
    expect(waysOut(last!).map(({ placing }) => placing?.slice.key ?? null)).toEqual([
      null,
      'KQK',
      'KRK',
      'KBK',
      'KNK',
    ]);
  });

  it('know captures in passing', () => {
    const { slice } = place([
      { side: 0, piece: 'P', square: 32 },
      { side: 1, piece: 'P', square: 49 },
    ]);
    const passing = waysOut(slice).filter(({ kind }) => kind === 13);
    expect(passing.map(({ placing }) => placing!.slice.key)).toEqual(['KPK b6']);
  });
});

describe('numbers of positions', () => {
  const turned = (square: number, way: number): number => {
    const at = square ^ (way & 1 ? 7 : 0) ^ (way & 2 ? 56 : 0);
    return way & 4 ? ((at & 7) << 3) | (at >> 3) : at;
  };

  it('are the same however the board is turned, without pawns', () => {
    for (let way = 0; way < 8; way++) {
      const one = placeOf(
        [turned(10, way), turned(53, way)],
        [
          { side: 0, piece: 'R', square: turned(30, way) },
          { side: 1, piece: 'N', square: turned(5, way) },
        ],
        1,
      );
      expect(one).toEqual(
        placeOf(
          [10, 53],
          [
            { side: 0, piece: 'R', square: 30 },
            { side: 1, piece: 'N', square: 5 },
          ],
          1,
        ),
      );
      expect(one.slice.key).toBe('KRKN');
    }
  });

  it('are the same with the sides exchanged, and with the files mirrored', () => {
    const men = (mixed: number, side: 0 | 1): (Man & { square: number })[] => [
      { side, piece: 'P', square: 12 ^ mixed },
    ];
    const plain = placeOf([4, 60], men(0, 0), 0);
    expect(placeOf([60 ^ 56, 4 ^ 56], men(56, 1), 1)).toEqual(plain);
    expect(placeOf([60 ^ 56, 4 ^ 56], men(56, 1), 0)).toEqual({ ...plain, toMove: 1 });
    expect(placeOf([4 ^ 7, 60 ^ 7], men(7, 0), 0)).toEqual(plain);
    expect(placeOf([4, 60], men(0, 0), 1)).toEqual({ ...plain, toMove: 1 });
  });

  it('are different for all that are different', () => {
    const seen = new Set<number>();
    let count = 0;
    for (let king = 0; king < 64; king++)
      for (let square = 0; square < 64; square++) {
        const { number, slice } = placeOf(
          [27, king],
          [
            { side: 0, piece: 'P', square: 12 },
            { side: 0, piece: 'Q', square },
          ],
          0,
        );
        expect(number).toBeLessThan(sizeOf(slice));
        seen.add(number);
        count++;
      }
    expect(seen.size).toBe(count);
  });
});

it('values say the result and how far the mate is', () => {
  expect(readValue(0)).toEqual({ result: 'draw' });
  expect(readValue(1)).toEqual({ result: 'loss', plies: 0 });
  expect(readValue(2)).toEqual({ result: 'win', plies: 1 });
  expect(readValue(57)).toEqual({ result: 'loss', plies: 56 });
});
