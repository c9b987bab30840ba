import fc from 'fast-check';
import type { GameKind, Position } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';

/** Positions along a game of random legal moves, oldest first. */
export const randomGame = (kind: GameKind, plies = 80): fc.Arbitrary<Position[]> =>
  fc.array(fc.nat(), { maxLength: plies, size: 'max' }).map((choices) => {
    const ruleset = rulesetOf(kind);
    const positions = [ruleset.start()];
    for (const choice of choices) {
      const moves = ruleset.moves(positions.at(-1)!);
      if (moves.length === 0) break;
      positions.push(ruleset.play(positions.at(-1)!, moves[choice % moves.length]!));
    }
    return positions;
  });

/** FEN or SFEN of a position reached by random legal moves. */
export const randomPosition = (kind: GameKind, plies = 80): fc.Arbitrary<string> =>
  randomGame(kind, plies).map((positions) => rulesetOf(kind).write(positions.at(-1)!));

/** The moves, in UCI or USI, that lead along some positions of a game. */
export function codesAlong(kind: GameKind, positions: readonly Position[]): string[] {
  const ruleset = rulesetOf(kind);
  return positions.slice(1).map((after, index) => {
    const before = positions[index]!;
    const move = ruleset
      .moves(before)
      .find((one) => ruleset.write(ruleset.play(before, one)) === ruleset.write(after));
    return ruleset.code(move!);
  });
}
