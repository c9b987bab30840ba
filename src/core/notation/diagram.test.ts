import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';

describe('a diagram in plain letters', () => {
  it('shows a chess board from White', () => {
    const chess = rulesetOf('chess');
    const lines = chess.diagram(chess.start('4k3/8/8/8/4P3/8/8/4K2R b K - 0 1')).split('\n');
    expect(lines[0]).toBe('8  . . . . k . . .');
    expect(lines[4]).toBe('4  . . . . P . . .');
    expect(lines[7]).toBe('1  . . . . K . . R');
    expect(lines.at(-1)).toBe('   a b c d e f g h');
  });

  it('shows a shogi board between the hands', () => {
    const shogi = rulesetOf('shogi');
    const lines = shogi.diagram(shogi.start('4k4/9/4+P4/9/9/9/9/9/4K4 b 2Gp 1')).split('\n');
    expect(lines[0]).toBe('White: P');
    expect(lines[1]).toBe(' 9  8  7  6  5  4  3  2  1');
    expect(lines[4]).toBe(' .  .  .  . +P  .  .  .  .  c');
    expect(lines.at(-1)).toBe('Black: 2G');
  });
});
