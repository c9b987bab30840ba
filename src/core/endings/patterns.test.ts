import { describe, expect, it } from 'vitest';
import type { ChessPosition } from '../chess/position';
import { chess } from '../chess/ruleset';
import type { Move } from '../game/move';
import { missedPatterns, twinOf } from './patterns';

/** @param moves those that keep the result, then the one that was played, all in SAN */
const asking =
  <Answer>(about: (position: ChessPosition, played: Move, keeping: readonly Move[]) => Answer) =>
  (fen: string, keeping: string, played: string): Answer => {
    const position = chess.start(fen);
    const read = (text: string) => {
      const move = chess.moves(position).find((one) => chess.text(position, one) === text);
      if (!move) throw new Error(`${text} in ${fen}`);
      return move;
    };
    return about(position, read(played), keeping.split(' ').filter(Boolean).map(read));
  };
const missed = asking(missedPatterns);
const twin = asking(twinOf);

describe('what was missed where a result was let go', () => {
  it('is the opposition, direct and distant', () => {
    expect(missed('4k3/8/8/4K3/4P3/8/8/8 w - - 0 1', 'Ke6', 'Kd5')).toEqual([
      'directOpposition',
      'keySquare',
    ]);
    expect(missed('8/4k3/8/8/8/8/4K3/8 w - - 0 1', 'Ke3', 'Kd3')).toEqual(['distantOpposition']);
    expect(missed('4k3/8/8/8/8/8/8/5K2 b - - 0 1', 'Kf7', 'Ke7')).toEqual(['distantOpposition']);
    // an even number of squares between the kings is none
    expect(missed('8/4k3/8/8/8/8/8/4K3 w - - 0 1', 'Ke2', 'Kd2')).not.toContain('directOpposition');
    expect(missed('8/4k3/8/8/8/8/8/4K3 w - - 0 1', 'Kf2', 'Kd2')).toEqual([]);
  });

  it('is the square of a pawn that runs alone', () => {
    const run = '8/8/8/8/P6k/8/8/K7 b - - 0 1';
    expect(missed('8/8/8/8/P4k2/8/8/K7 b - - 0 1', 'Ke5', 'Kf5')).toEqual(['square']);
    expect(missed(run, 'Kg5', 'Kh5')).toEqual([]);
    // with a piece beside it, it does not run alone
    expect(missed('8/8/8/8/P4k2/8/8/K6N b - - 0 1', 'Ke5', 'Kf5')).toEqual([]);
    // two steps at first: five moves, not six
    expect(missed('8/8/8/8/6k1/8/P7/K7 b - - 0 1', 'Kf5', 'Kg5')).toEqual(['square']);
  });

  it('is a key square, which a rook’s pawn has none of', () => {
    expect(missed('8/8/4k3/8/8/3K4/4P3/8 w - - 0 1', 'Ke4', 'Ke3')).toContain('keySquare');
    expect(missed('8/8/k7/8/8/1K6/P7/8 w - - 0 1', 'Ka4', 'Ka3')).not.toContain('keySquare');
    // from the fifth rank on also one rank before the pawn
    expect(missed('3k4/8/3K4/4P3/8/8/8/8 w - - 0 1', 'Ke6', 'Kd5')).toContain('keySquare');
    expect(missed('3k4/8/8/3K4/4P3/8/8/8 w - - 0 1', 'Ke5', 'Kd4')).not.toContain('keySquare');
  });

  it('is where a rook stands', () => {
    expect(missed('8/8/1k6/8/P7/8/7r/1K4R1 b - - 0 1', 'Ra2', 'Rh3')).toEqual(['rookBehind']);
    expect(missed('3k4/8/8/8/1P6/1K6/8/4R3 w - - 0 1', 'Rd1+', 'Ra1')).not.toContain('rookBehind');
    expect(missed('4k3/8/8/8/1P6/1K6/8/7R w - - 0 1', 'Rd1', 'Rf1')).toEqual(['cutOff']);
    expect(missed('4k3/8/8/8/1P6/1K6/8/7R w - - 0 1', 'Rd1', 'Re1+')).toEqual(['cutOff']);
    expect(missed('3k4/7r/8/3KP3/8/8/8/R7 b - - 0 1', 'Rh6', 'Rh1')).toEqual(['thirdRank']);
    // too late once the pawn is there
    expect(missed('3k4/7r/4P3/3K4/8/8/8/R7 b - - 0 1', 'Rh6', 'Rh1')).toEqual([]);
  });

  it('is the bridge that a rook builds', () => {
    const before = '3K4/3P1k2/8/8/8/8/4r3/2R5 w - - 0 1';
    expect(missed(before, 'Rc4', 'Rc5')).toEqual(['bridge']);
    expect(missed(before, 'Rc5', 'Rc6')).toEqual([]);
    // the king is not before its pawn, or that is not far enough
    expect(missed('2K5/3P1k2/8/8/8/8/4r3/2R5 w - - 0 1', 'Rc4', 'Rc6')).toEqual([]);
    expect(missed('3K4/5k2/3P4/8/8/8/4r3/2R5 w - - 0 1', 'Rc4', 'Rc5')).not.toContain('bridge');
  });

  it('is the corner beside a pawn that a queen can’t win', () => {
    expect(missed('2K5/2P5/8/8/8/8/q7/k7 w - - 0 1', 'Kb8', 'Kd8')).toEqual(['fortress']);
    expect(missed('1K6/P7/8/8/8/8/1q6/k7 w - - 0 1', 'Ka8', 'Kc8')).toEqual(['fortress']);
    expect(missed('1K6/P7/8/8/8/8/1q6/k7 w - - 0 1', 'Kc7', 'Kc8')).toEqual([]);
    // Black's likewise, on its seventh rank; not a knight's pawn, nor beside another piece
    expect(missed('K7/Q7/8/8/8/8/2p5/2k5 b - - 0 1', 'Kb1', 'Kd1')).toEqual(['fortress']);
    for (const [fen, keeping, played] of [
      ['K7/Q7/8/8/8/8/1p6/2k5 b - - 0 1', 'Kb1', 'Kd1'],
      ['K7/Q7/8/8/8/7R/2p5/2k5 b - - 0 1', 'Kb2', 'Kd1'],
      ['K7/Q7/8/8/8/7p/2p5/2k5 b - - 0 1', 'Kb1', 'Kd1'],
      ['K7/Q7/8/8/2p5/2k5/8/8 b - - 0 1', 'Kb2', 'Kd2'],
    ] as const)
      expect([fen, ...missed(fen, keeping, played)]).not.toContain('fortress');
  });

  it('is the corner that a bishop does not guard', () => {
    // a8 is light, the bishop runs on dark squares
    expect(missed('8/3k4/8/P7/K7/8/8/2B5 b - - 0 1', 'Kc8', 'Ke8')).toEqual(['rightCorner']);
    expect(missed('8/3k4/8/P7/K7/8/8/5B2 b - - 0 1', 'Kc8', 'Ke8')).toEqual([]);
    expect(missed('8/3k4/8/1P6/K7/8/8/2B5 b - - 0 1', 'Kc8', 'Ke8')).toEqual([]);
  });

  it('is that the other side keeps a move', () => {
    expect(missed('7k/8/6Q1/8/8/8/8/K7 w - - 0 1', 'Kb2 Qf7', 'Qf7')).toEqual([]);
    expect(missed('7k/8/8/6Q1/8/8/8/K7 w - - 0 1', 'Kb2', 'Qg6')).toEqual(['noStalemate']);
  });

  it('is a pawn that was moved too early, or was not', () => {
    expect(missed('4k3/8/4K3/4P3/8/8/8/8 b - - 0 1', 'Kf8', 'Kd8')).toEqual([]);
    const both = '8/3k4/8/3KP3/8/8/8/8 w - - 0 1';
    expect(missed(both, 'Kd4', 'e6+')).toContain('noPush');
    expect(missed(both, 'e6+', 'Kd4')).toContain('push');
    expect(missed(both, 'e6+ Kd4', 'Kc4')).not.toContain('push');
  });

  it('has no name where nothing keeps the result, or the moves that do have nothing in common', () => {
    expect(missed('8/4k3/8/8/8/8/4K3/8 w - - 0 1', '', 'Kd3')).toEqual([]);
    expect(missed('8/4k3/8/8/8/8/4K3/8 w - - 0 1', 'Ke3 Kf3', 'Kd3')).toEqual([]);
  });
});

describe('a move that looks like the one that keeps the result', () => {
  const KING = '8/8/8/8/2k5/8/8/K7 w - - 0 1';
  const ROOK = '8/8/8/7k/8/8/8/K2R4 w - - 0 1';
  const ROOKS = '8/8/8/6k1/8/8/2K5/R6R w - - 0 1';

  it('is the king’s or a rook’s to the square beside, or the other rook’s', () => {
    expect(twin(KING, 'Ka2', 'Kb2')).toBe('kingBeside');
    expect(twin(ROOK, 'Rd6', 'Rd7')).toBe('rookBeside');
    expect(twin(ROOKS, 'Rae1', 'Rhe1')).toBe('otherRook');
  });

  it('is not one that goes farther away, of another piece, or of another kind', () => {
    expect(twin(ROOK, 'Rd4', 'Rd7')).toBeNull();
    expect(twin(ROOK, 'Rd6', 'Kb2')).toBeNull();
    expect(twin(ROOKS, 'Rab1', 'Rhf1')).toBeNull();
    expect(twin('8/8/8/7k/8/8/8/N1K3N1 w - - 0 1', 'Nc2', 'Nb3')).toBeNull();
  });

  it('is none where two keep it, or nothing does', () => {
    expect(twin(KING, 'Ka2 Kb1', 'Kb2')).toBeNull();
    expect(twin(KING, '', 'Kb2')).toBeNull();
  });
});
