import {
  boardMove,
  dropMove,
  dropOf,
  fromOf,
  NULL_MOVE,
  promotionOf,
  toOf,
  type Move,
} from './move';
import { otherSide, SIDES, type Ruleset } from './ruleset';

/** A position with colours reversed: each side stands as the other did, and the other is to move. It is worth the same to who moves. */
export function reversed<P>(ruleset: Ruleset<P>, position: P): P {
  const { setup } = ruleset;
  const half = setup.pieces.length / 2;
  let turned = setup.turn(setup.empty(), otherSide(ruleset.side(position)));
  for (const square of ruleset.squareNames.keys()) {
    const place = setup.pieces.indexOf(setup.pieceAt(position, square));
    if (place < 0) continue;
    const piece = setup.pieces[(place + half) % setup.pieces.length]!;
    turned = setup.put(turned, setup.opposite(square), piece);
  }
  for (const type of setup.handTypes)
    for (const side of SIDES)
      turned = setup.hold(turned, otherSide(side), type, setup.held(position, side, type));
  for (const { right, side, move } of setup.rights) {
    const other = setup.rights.find((one) => one.side !== side && one.move === move)!;
    if (setup.hasRight(position, right)) turned = setup.toggleRight(turned, other.right);
  }
  const passed = setup.passed(position);
  return ruleset.start(
    ruleset.write(passed < 0 ? turned : setup.pass(turned, setup.opposite(passed))),
  );
}

/** The move that is to a {@link reversed} position what a move is to the position. */
export function reversedMove<P>({ setup }: Ruleset<P>, move: Move): Move {
  if (move === NULL_MOVE) return move;
  const to = setup.opposite(toOf(move));
  const dropped = dropOf(move);
  return dropped > 0
    ? dropMove(dropped, to)
    : boardMove(setup.opposite(fromOf(move)), to, promotionOf(move));
}
