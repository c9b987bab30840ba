import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomPosition } from '../../tests/support/random-positions';
import { GAME_KINDS, PositionError, type Position } from './game/ruleset';
import { rulesetOf } from './rulesets';

describe.each(GAME_KINDS)('setting up a position by hand (%s)', (kind) => {
  const ruleset = rulesetOf(kind);
  const { setup } = ruleset;
  const squares = ruleset.squareNames.map((_, square) => square);

  /** Sets up the position of a text on an empty board, piece by piece. */
  function copyByHand(text: string): Position {
    const model = ruleset.start(text);
    let position = setup.empty();
    for (const square of squares)
      position = setup.put(position, square, setup.pieceAt(model, square));
    for (const side of [0, 1] as const)
      for (const type of setup.handTypes)
        position = setup.hold(position, side, type, setup.held(model, side, type));
    for (const { right } of setup.rights)
      if (setup.hasRight(model, right)) position = setup.toggleRight(position, right);
    position = setup.turn(position, ruleset.side(model));
    return setup.passed(model) < 0 ? position : setup.pass(position, setup.passed(model));
  }

  it('reaches any position, equal to one that was read', () => {
    fc.assert(
      fc.property(randomPosition(kind), (text) => {
        const model = ruleset.start(text);
        const copy = copyByHand(text);
        expect(ruleset.key(copy)).toBe(ruleset.key(model));
        expect(ruleset.key(ruleset.start(ruleset.write(copy)))).toBe(ruleset.key(model));
      }),
    );
  });

  it('leaves the position before as it was, and takes pieces away again', () => {
    const start = ruleset.start();
    const piece = setup.pieces[0]!;
    const more = setup.put(start, squares.at(-1)! >> 1, piece);
    expect(ruleset.write(start)).toBe(ruleset.startText);
    expect(ruleset.write(setup.put(more, squares.at(-1)! >> 1, 0))).toBe(ruleset.startText);
  });

  it('what is no position yet is said to be none, and why', () => {
    const codeOf = (position: Position): string => {
      try {
        ruleset.start(ruleset.write(position));
      } catch (error) {
        if (error instanceof PositionError) return error.code;
      }
      return 'fine';
    };
    expect(codeOf(setup.empty())).toMatch(/^position\.noKings?$/);
    const twoKings = setup.put(ruleset.start(), squares.at(-1)! >> 1, setup.pieces[0]!);
    expect(codeOf(twoKings)).toBe('position.manyKings');
    expect(codeOf(ruleset.start())).toBe('fine');
  });
});

it('a pawn that has just passed is offered only where one can have', () => {
  const { setup, start, write } = rulesetOf('chess');
  const position = start('4k3/8/8/3pP3/8/8/8/4K3 w - - 0 1');
  expect(setup.passable(position).map(({ name }) => name)).toEqual(['d6']);
  const passed = setup.pass(position, setup.passable(position)[0]!.square);
  expect(write(passed)).toContain(' w - d6 ');
  // the pawn is taken away, and with it the right to take it in passing
  expect(write(setup.put(passed, 35, 0))).toContain(' w - - ');
  expect(write(setup.turn(passed, 1))).toContain(' b - - ');
});
