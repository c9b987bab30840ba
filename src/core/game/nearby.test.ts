import { describe, expect, it } from 'vitest';
import { chess } from '../chess/ruleset';
import { shogi } from '../shogi/ruleset';
import { nearbyMoves, nearbyText } from './nearby';

describe('legal moves that look like what was written', () => {
  it.each([
    ['Nf5', ['Nf3', 'Nh3', 'Nc3', 'Na3']],
    ['e5', ['e4', 'd4', 'f4', 'e3']],
    ['Bf3', ['Nf3', 'f3']],
    // a king that can't move, and castling that is not there
    ['Ke2', []],
    ['O-O', []],
  ])('chess: %s', (written, nearby) => {
    expect(nearbyMoves(chess, chess.start(), written, 4)).toEqual(nearby);
  });

  it.each([
    ['P-5e', ['P-5f', 'P-4f', 'P-6f', 'P-3f']],
    ['S-5h', ['R-5h', 'G4i-5h', 'K-5h', 'G6i-5h']],
    // as games keep them: from a square
    ['7g7e', ['P-7f']],
    ['2h2b', ['R-1h', 'R-3h', 'R-4h', 'R-5h']],
  ])('shogi: %s', (written, nearby) => {
    expect(nearbyMoves(shogi, shogi.start(), written, 4)).toEqual(nearby);
  });

  it('names no more than asked for, and nothing for what is no move', () => {
    expect(nearbyMoves(chess, chess.start(), 'e9', 3)).toHaveLength(3);
    for (const ruleset of [chess, shogi])
      expect(nearbyMoves(ruleset, ruleset.start(), 'zz')).toEqual([]);
    expect(nearbyText(chess, chess.start(), 'zz')).toBe('–');
    expect(nearbyText(chess, chess.start(), 'Bf3')).toBe('Nf3, f3');
  });
});
