import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';
import { phasesAlong } from './phases';

const chess = rulesetOf('chess');
const shogi = rulesetOf('shogi');

describe('the phase of a position', () => {
  it('is told in chess by what has come out and what is left', () => {
    expect(chess.phase(chess.start())).toBe('opening');
    const at = (fen: string) => chess.phase(chess.start(fen));
    expect(at('r2q1rk1/1pp2ppp/p1npbn2/2b1p3/4P3/1BNPBN2/PPP2PPP/R2Q1RK1 w - - 0 10')).toBe(
      'middlegame',
    );
    expect(at('4r1k1/5ppp/8/8/8/8/5PPP/3R2K1 w - - 0 30')).toBe('ending');
    expect(at('3qr1k1/5ppp/8/8/8/8/5PPP/3QR1K1 w - - 0 30')).toBe('middlegame');
  });

  it('is told in shogi by the loose pieces, a bishop exchange apart', () => {
    expect(shogi.phase(shogi.start())).toBe('opening');
    const at = (sfen: string) => shogi.phase(shogi.start(sfen));
    const board = 'lnsgkgsnl/1r5s1/ppppppppp/9/9/9/PPPPPPPPP/1S5R1/LN1GKG1NL';
    expect(at(`${board} b Bb 11`)).toBe('opening');
    expect(at('lnsgkg1nl/1r7/pppppp1pp/6p2/9/2P6/PP1PPPPPP/7R1/LNSGKGSNL b BSb 11')).toBe(
      'middlegame',
    );
    expect(at('4k4/9/9/9/9/9/9/9/4K4 b RBG2Srbg 101')).toBe('ending');
  });

  it.each([
    // a queen each, a rook: 23 points; with a knight 26, with a bishop too 29
    ['3qk3/8/8/8/8/8/8/R2QK3 w - - 0 1', 'ending'],
    ['3qk3/8/8/8/8/8/8/RN1QK3 w - - 0 1', 'ending'],
    ['3qk3/8/8/8/8/8/8/RN1QKB2 w - - 0 1', 'middlegame'],
    // four minor pieces at home, three, and four on other squares than their own
    ['rnbqk2r/8/8/8/8/8/8/R1BQKB1R w - - 0 1', 'opening'],
    ['rnbqk2r/8/8/8/8/8/8/R1BQK2R w - - 0 1', 'middlegame'],
    ['rbnqk2r/8/8/8/8/8/8/RBNQK2R w - - 0 1', 'middlegame'],
  ])('%s is the %s', (fen, phase) => expect(chess.phase(chess.start(fen))).toBe(phase));

  it.each([
    ['4k4/9/9/9/9/9/9/9/4K4 b 18P 1', 'opening'],
    ['4k4/9/9/9/9/9/9/9/4K4 b Bb 1', 'opening'],
    ['4k4/9/9/9/9/9/9/9/4K4 b S 1', 'middlegame'],
    ['4k4/9/9/9/4+P4/9/9/9/4K4 b - 1', 'middlegame'],
    ['4k4/9/9/9/4+P4/9/9/9/4K4 b Sbgr 1', 'middlegame'],
    ['4k4/9/9/9/4+P4/9/9/9/4K4 b Sbgrl 1', 'ending'],
    ['4k4/9/9/9/9/9/9/9/4K4 b 2G2S2N 1', 'ending'],
  ])('%s is the %s', (sfen, phase) => expect(shogi.phase(shogi.start(sfen))).toBe(phase));

  it('never goes back', () => {
    const ending = chess.start('4r1k1/5ppp/8/8/8/8/5PPP/3R2K1 w - - 0 30');
    expect(phasesAlong(chess, [chess.start(), ending, chess.start()])).toEqual([
      'opening',
      'ending',
      'ending',
    ]);
  });
});
