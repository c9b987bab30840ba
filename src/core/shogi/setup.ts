import type { PositionSetup } from '../game/ruleset';
import {
  HAND_ORDER,
  KING,
  letterOfType,
  pieceOf,
  PROMOTED,
  canPromote,
  sideOf,
  typeOf,
} from './pieces';
import { ShogiPosition } from './position';

const TYPES = [
  KING,
  ...HAND_ORDER.flatMap((type) => (canPromote(type) ? [type, type + PROMOTED] : [type])),
];

function changed(position: ShogiPosition, change: (copy: ShogiPosition) => void): ShogiPosition {
  const copy = position.clone();
  change(copy);
  return copy.settle();
}

export const shogiSetup: PositionSetup<ShogiPosition> = {
  pieces: ([0, 1] as const).flatMap((side) => TYPES.map((type) => pieceOf(type, side))),
  letter(piece) {
    const letter = letterOfType(typeOf(piece));
    return sideOf(piece) === 0 ? letter : letter.toLowerCase();
  },
  pieceAt: ({ board }, square) => board[square]!,
  empty: () => new ShogiPosition().settle(),
  opposite: (square) => 80 - square,
  put: (position, square, piece) =>
    changed(position, (copy) => {
      copy.board[square] = piece;
    }),
  turn: (position, side) =>
    changed(position, (copy) => {
      copy.side = side;
    }),
  handTypes: HAND_ORDER,
  held: ({ hands }, side, type) => hands[side][type]!,
  hold: (position, side, type, count) =>
    changed(position, (copy) => {
      copy.hands[side][type] = count;
    }),
  rights: [],
  hasRight: () => false,
  toggleRight: (position) => position,
  passable: () => [],
  passed: () => -1,
  pass: (position) => position,
};
