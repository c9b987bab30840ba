import type { Phase } from '../game/ruleset';
import { BISHOP, BLACK_BIT, KNIGHT, QUEEN, ROOK, typeOf } from './pieces';
import type { ChessPosition } from './position';

const POINTS: Record<number, number> = { [KNIGHT]: 3, [BISHOP]: 3, [ROOK]: 5, [QUEEN]: 9 };
/** Points of pieces of both sides together with which it is an ending: about a queen and a minor piece each. */
const ENDING = 26;
/** Minor pieces of both sides on their first squares with which it is still the opening. */
const AT_HOME = 4;
const HOMES: readonly (readonly [square: number, type: number])[] = [
  [1, KNIGHT],
  [2, BISHOP],
  [5, BISHOP],
  [6, KNIGHT],
];

/** Which part of the game a position belongs to, by the pieces that are left and those that have come out. */
export function chessPhase({ board }: ChessPosition): Phase {
  const points = board.reduce((sum, piece) => sum + (POINTS[typeOf(piece)] ?? 0), 0);
  if (points <= ENDING) return 'ending';
  const atHome = HOMES.reduce(
    (sum, [square, type]) =>
      sum + Number(board[square] === type) + Number(board[square + 56] === (type | BLACK_BIT)),
    0,
  );
  return atHome >= AT_HOME ? 'opening' : 'middlegame';
}
