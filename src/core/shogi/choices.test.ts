import { describe, expect, it } from 'vitest';
import { shogi } from './ruleset';

const textsOf = (sfen: string, list: 'moves' | 'choices'): string[] => {
  const position = shogi.start(sfen);
  return shogi[list](position).map((move) => shogi.code(move));
};

/** Legal moves that are no choices. */
const pointless = (sfen: string): string[] => {
  const chosen = textsOf(sfen, 'choices');
  return textsOf(sfen, 'moves')
    .filter((code) => !chosen.includes(code))
    .sort();
};

describe('promotions declined', () => {
  it.each([
    ['a rook', '4k4/7r1/9/7R1/9/9/9/9/4K4 b - 1', ['2d2b', '2d2c']],
    ['a bishop that leaves the zone', '4k4/9/1B7/9/9/9/9/9/4K4 b - 1', undefined],
    ['a pawn', '8k/9/9/4P4/9/9/9/9/4K4 b - 1', ['5d5c']],
    ['a lance on the second rank only', '8k/9/9/9/4L4/9/9/9/4K4 b - 1', ['5e5b']],
    ['White', '4k4/9/9/9/9/9/4p4/9/8K w - 1', ['5g5h']],
  ])('are no choices: %s', (_, sfen, expected) => {
    const found = pointless(sfen);
    if (expected) expect(found).toEqual(expected);
    else expect(found.length).toBeGreaterThan(5);
  });

  it.each([
    ['silver and knight', '8k/9/9/2N1S4/9/9/9/9/4K4 b - 1'],
    ['a pawn that can be dropped for mate', '9/9/3k5/9/9/3P5/3R5/9/4K4 b P 1'],
    ['nothing in the zone', '8k/9/9/9/9/4P4/9/4G4/4K4 b - 1'],
  ])('are left: %s', (_, sfen) => {
    const inZone = pointless(sfen);
    expect(inZone).toEqual([]);
  });

  it('are none where the king stands on the last rank: no pawn can be dropped before it', () => {
    expect(pointless('K8/9/4R4/9/9/9/9/9/5k3 b P 1')).toContain('5c5g');
    expect(pointless('K8/9/4R4/9/9/9/9/5k3/9 b P 1')).not.toContain('5c5f');
  });

  it('count where a dropped pawn might mate, and only there', () => {
    // the king on 1a, a pawn in hand to be dropped on 1b, the rook two steps away
    const near = '8k/9/7R1/9/9/9/9/9/4K4 b P 1';
    expect(pointless(near)).not.toContain('2c2a');
    expect(pointless(near)).toContain('2c9c');
    // without a pawn, or with one on the file already, it does not matter
    expect(pointless(near.replace('b P', 'b -'))).toContain('2c2a');
    expect(pointless('8k/9/7R1/9/9/9/9/8P/4K4 b P 1')).toContain('2c2a');
    // nor where something stands before the king
    expect(pointless('8k/8g/7R1/9/9/9/9/9/4K4 b P 1')).toContain('2c2a');
    // a pawn that is taken on the way counts as held
    expect(pointless('7pk/9/7R1/9/9/9/9/9/4K4 b - 1')).not.toContain('2c2a');
  });

  it('count within two steps of the king', () => {
    expect(pointless('8k/9/6R2/9/9/9/9/9/4K4 b P 1')).not.toContain('3c3a');
    expect(pointless('8k/9/5R3/9/9/9/9/9/4K4 b P 1')).toContain('4c4a');
  });

  it('count for what leaves the square before the king, not for what fills it', () => {
    expect(pointless('8k/8B/9/9/9/9/9/9/4K4 b P 1')).not.toContain('1b2c');
    expect(pointless('8k/9/7B1/9/9/9/9/9/4K4 b P 1')).toContain('2c1b');
  });

  it('count for the pawn itself, which is all that keeps another from its file', () => {
    expect(pointless('8k/9/9/8P/9/9/9/9/4K4 b P 1')).not.toContain('1d1c');
  });

  it('count for a king whose attacker is the other side too', () => {
    const own = '3K5/9/3R5/9/9/9/9/9/k8 b p 1';
    expect(pointless(own)).toContain('6c9c');
    expect(pointless(own.replace('b p', 'b -'))).toContain('6c6b');
  });

  it('stay legal', () => {
    expect(textsOf('4k4/7r1/9/7R1/9/9/9/9/4K4 b - 1', 'moves')).toContain('2d2b');
  });
});
