import fc from 'fast-check';
import { expect, it } from 'vitest';
import { randomPosition } from '../../../tests/support/random-positions';
import { rulesetOf } from '../rulesets';
import { boardMove, dropMove, NULL_MOVE, type Move } from './move';
import { GAME_KINDS } from './ruleset';

/** Every move that can be written down, and some that can't. */
const ANY_MOVE: readonly Move[] = [
  NULL_MOVE,
  ...Array.from({ length: 90 }, (_, from) =>
    Array.from({ length: 90 }, (_, to) =>
      [0, 1, 2, 3, 4, 5, 6].map((promotion) => boardMove(from, to, promotion)),
    ),
  ).flat(2),
  ...Array.from({ length: 90 }, (_, to) =>
    Array.from({ length: 15 }, (_, type) => dropMove(type + 1, to)),
  ).flat(),
];

it.each(GAME_KINDS)('a move of %s is legal where it is among the legal ones', (kind) => {
  const ruleset = rulesetOf(kind);
  fc.assert(
    fc.property(randomPosition(kind), (text) => {
      const position = ruleset.start(text);
      const legal = ANY_MOVE.filter((move) => ruleset.isLegal(position, move));
      expect(new Set(legal)).toEqual(new Set(ruleset.moves(position)));
    }),
    { numRuns: 60 },
  );
});
