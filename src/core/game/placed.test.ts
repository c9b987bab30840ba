import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GAME_KINDS, type Position } from './ruleset';
import { randomPosition } from '../../../tests/support/random-positions';
import { rulesetOf } from '../rulesets';
import { placedBy } from './placed';

describe.each(GAME_KINDS)('what each side has, and where (%s)', (kind) => {
  const ruleset = rulesetOf(kind);
  const { setup, squareNames } = ruleset;

  it('is enough to set the pieces up again', () => {
    fc.assert(
      fc.property(randomPosition(kind), (text) => {
        const position = ruleset.start(text);
        let copy = setup.empty();
        for (const side of [0, 1] as const) {
          const codes = new Map(
            setup.pieces
              .slice((side * setup.pieces.length) / 2)
              .map((piece) => [setup.letter(piece).toUpperCase(), piece] as const)
              .slice(0, setup.pieces.length / 2),
          );
          for (const { piece, squares, held } of placedBy(ruleset, position, side)) {
            for (const name of squares)
              copy = setup.put(copy, squareNames.indexOf(name), codes.get(piece)!);
            if (held === 0) continue;
            const type = setup.handTypes.find((one) => setup.letter(one) === piece)!;
            copy = setup.hold(copy, side, type, held);
          }
        }
        const board = (of: Position): string[] => ruleset.write(of).split(' ');
        expect(board(copy)[0]).toBe(board(position)[0]);
        if (kind === 'shogi') expect(board(copy)[2]).toBe(board(position)[2]);
      }),
    );
  });

  it('begins with the king and leaves out what a side does not have', () => {
    const [king, ...others] = placedBy(ruleset, ruleset.start(), 0);
    expect(king).toEqual({ piece: 'K', squares: [kind === 'chess' ? 'e1' : '5i'], held: 0 });
    expect(others.map(({ piece }) => piece).join('')).toBe(kind === 'chess' ? 'QRBNP' : 'RBGSNLP');
  });
});
