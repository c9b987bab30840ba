import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';
import { readMoveList } from './read-move-text';

const chess = rulesetOf('chess');
const shogi = rulesetOf('shogi');

describe('a list of moves as somebody pastes it', () => {
  const read = (text: string) =>
    readMoveList(chess, chess.start(), text)?.map((move) => chess.code(move)) ?? null;

  it('is read with or without numbers and a result', () => {
    expect(read('1. e4 e5 2.Nf3 Nc6 1-0')).toEqual(['e2e4', 'e7e5', 'g1f3', 'b8c6']);
    expect(read('e2e4 1... e5')).toEqual(['e2e4', 'e7e5']);
    expect(read('1. e4 1… e5 2. Nf3')).toEqual(['e2e4', 'e7e5', 'g1f3']);
  });

  it('is none where a move is not legal or nothing is there', () => {
    expect(read('1. e4 e4')).toBeNull();
    expect(read('hello world')).toBeNull();
    expect(read('1-0')).toBeNull();
  });

  it('is read in shogi by USI or western notation', () => {
    const moves = readMoveList(shogi, shogi.start(), '7g7f P-3d 8h2b+ Sx2b B*5e');
    expect(moves?.map((move) => shogi.code(move))).toEqual([
      '7g7f',
      '3c3d',
      '8h2b+',
      '3a2b',
      'B*5e',
    ]);
  });
});
