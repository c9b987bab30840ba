import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomSource } from '@/engine/draw';
import { frequencyDiffers, scoreDiffers } from './compare';

describe('a frequency', () => {
  it.each([
    // pooled 0.35: error 6.745 points, of which 1.96 make 13.2
    [{ count: 42, of: 100 }, { count: 28, of: 100 }, 'more'],
    [{ count: 28, of: 100 }, { count: 42, of: 100 }, 'less'],
    [{ count: 41, of: 100 }, { count: 29, of: 100 }, null],
    // of what is rare, little can be said
    [{ count: 4, of: 1000 }, { count: 0, of: 1000 }, null],
    [{ count: 10, of: 1000 }, { count: 0, of: 1000 }, 'more'],
    [{ count: 9, of: 1000 }, { count: 0, of: 1000 }, null],
    [{ count: 0, of: 0 }, { count: 0, of: 0 }, null],
    [{ count: 50, of: 100 }, { count: 0, of: 0 }, null],
  ] as const)('%j beside %j: %s', (here, there, told) => {
    expect(frequencyDiffers(here, there)).toBe(told);
  });
});

describe('a score', () => {
  const score = (won: number, drawn: number, lost: number) => ({ won, drawn, lost });

  it.each([
    // without draws, 60 and 46 of 100: errors of 4.92 and 5.01 points, together 7.02, of which 1.96 make 13.8
    [score(60, 0, 40), score(46, 0, 54), 'more'],
    [score(46, 0, 54), score(60, 0, 40), 'less'],
    [score(60, 0, 40), score(47, 0, 53), null],
    // draws leave less to chance
    [score(20, 80, 0), score(10, 80, 10), 'more'],
    [score(9, 0, 0), score(0, 0, 100), null],
    [score(10, 0, 0), score(0, 0, 10), 'more'],
    [score(0, 0, 0), score(0, 0, 100), null],
  ] as const)('%j beside %j: %s', (here, there, told) => {
    expect(scoreDiffers(here, there)).toBe(told);
  });

  it('of the same players differs by chance about one time in twenty', () => {
    const random = randomSource(11);
    const drawn = (games: number) => {
      const found = { won: 0, drawn: 0, lost: 0 };
      for (let game = 0; game < games; game++)
        found[(['won', 'drawn', 'lost'] as const)[Math.floor(random() * 3)]!]++;
      return found;
    };
    const times = 2000;
    let differ = 0;
    for (let time = 0; time < times; time++) if (scoreDiffers(drawn(60), drawn(90))) differ++;
    expect(differ / times).toBeGreaterThan(0.03);
    expect(differ / times).toBeLessThan(0.07);
  });

  it('differs the other way round from the other side', () => {
    const some = fc.record({ won: fc.nat(40), drawn: fc.nat(40), lost: fc.nat(40) });
    const turned = { more: 'less', less: 'more' } as const;
    fc.assert(
      fc.property(some, some, (here, there) => {
        const told = scoreDiffers(here, there);
        expect(scoreDiffers(there, here)).toBe(told && turned[told]);
      }),
    );
  });
});
