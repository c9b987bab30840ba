import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';
import { GAME_KINDS, otherSide, type Position, type Ruleset } from './ruleset';
import { reversed, reversedMove } from './reversed';

/** A position that moves drawn from some numbers lead to. */
function reached(ruleset: Ruleset, choices: readonly number[]): Position {
  let position = ruleset.start();
  for (const choice of choices) {
    const moves = ruleset.moves(position);
    if (moves.length === 0) break;
    position = ruleset.play(position, moves[choice % moves.length]!);
  }
  return position;
}

describe.each(GAME_KINDS)('colours reversed in %s', (kind) => {
  const ruleset = rulesetOf(kind);
  const codesOf = (position: Position): string[] =>
    ruleset
      .moves(position)
      .map((move) => ruleset.code(move))
      .sort();

  it('leave the same moves to the other side, which lead to reversed positions, and back', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(10_000), { maxLength: 60 }), (choices) => {
        const position = reached(ruleset, choices);
        const other = reversed(ruleset, position);
        expect(ruleset.side(other)).toBe(otherSide(ruleset.side(position)));
        expect(ruleset.key(reversed(ruleset, other))).toBe(ruleset.key(position));
        const moves = ruleset.moves(position);
        expect(codesOf(other)).toEqual(
          moves.map((move) => ruleset.code(reversedMove(ruleset, move))).sort(),
        );
        for (const move of moves.slice(0, 3)) {
          expect(reversedMove(ruleset, reversedMove(ruleset, move))).toBe(move);
          const played = ruleset.play(other, reversedMove(ruleset, move));
          expect(ruleset.key(played)).toBe(
            ruleset.key(reversed(ruleset, ruleset.play(position, move))),
          );
        }
      }),
      { numRuns: 60 },
    );
  });
});

it('castling, and a pawn that can be taken in passing, change sides too', () => {
  const chess = rulesetOf('chess');
  const turn = (text: string): string => chess.write(reversed(chess, chess.start(text)));
  expect(turn('r3k2r/8/8/8/3pP3/8/8/4K2R b Kq e3 0 9')).toBe(
    '4k2r/8/8/3Pp3/8/8/8/R3K2R w kQ e6 0 1'.replace('kQ', 'Qk'),
  );
});

it('pieces in hand change hands', () => {
  const shogi = rulesetOf('shogi');
  const start = shogi.start('4k4/9/9/9/9/9/9/9/4K4 b R2Pg 1');
  expect(shogi.write(reversed(shogi, start))).toBe('4k4/9/9/9/9/9/9/9/4K4 w Gr2p 1');
});
