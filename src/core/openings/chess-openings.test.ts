import { describe, expect, it } from 'vitest';
import { chess } from '../chess/ruleset';
import { readSan } from '../chess/san';
import { CHESS_LINES } from './chess-lines';
import { chessOpening } from './chess-openings';

const LINES = CHESS_LINES.trim()
  .split('\n')
  .map((line) => line.split('|') as [code: string, name: string, japanese: string, moves: string]);

/** The moves of a game and the position that they lead to. */
function played(text: string) {
  let position = chess.start();
  const moves = text.split(' ').map((word) => {
    const reading = readSan(position, word);
    if (!('move' in reading)) throw new Error(`${word} in ${text}`);
    position = chess.play(position, reading.move);
    return reading.move;
  });
  return { moves, position };
}
const openingAfter = (text: string) => chessOpening(chess.start(), played(text).moves);

describe('the openings of chess', () => {
  it('are many, each of a position and names of its own', () => {
    expect(LINES.length).toBeGreaterThanOrEqual(300);
    const unlike = (values: readonly unknown[]) => expect(new Set(values).size).toBe(values.length);
    unlike(LINES.map(([, name]) => name));
    unlike(LINES.map(([, , japanese]) => japanese));
    unlike(LINES.map(([, , , moves]) => chess.key(played(moves).position)));
    for (const [code, name, japanese] of LINES) {
      expect(code, name).toMatch(/^[A-E]\d\d$/);
      expect(japanese, name).toMatch(/[\u30a0-\u30ff\u4e00-\u9fff]/);
    }
  });

  it.each(LINES)('%s %s', (code, name, japanese, moves) => {
    expect(openingAfter(moves)).toEqual({ code, name, japanese });
  });

  it('are known by whatever moves they come about, and stay until another has a name', () => {
    const name = (moves: string) => openingAfter(moves)?.name;
    expect(name('c4 e6 d4 Nf6 Nc3 Bb4')).toBe('Nimzo-Indian Defence');
    expect(name('d4 Nf6 c4 e6 Nc3 Bb4 Bd2 O-O')).toBe('Nimzo-Indian Defence');
    expect(name('e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 Rg1')).toBe(
      'Sicilian Defence, Najdorf Variation',
    );
    expect(chessOpening(chess.start(), [])).toBeNull();
    // a game that was set up comes to none of them by its start alone
    expect(chessOpening(played('e4 c5').position, [])).toBeNull();
    expect(chessOpening(played('e4 c5').position, played('e4 c5 Nf3').moves.slice(2))?.name).toBe(
      'Sicilian Defence, Open Preparations',
    );
  });
});
