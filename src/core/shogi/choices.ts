import { dropOf, fromOf, promotionOf, toOf, type Move, type Square } from '../game/move';
import { otherSide } from '../game/ruleset';
import { fileOf, rankFor, rankOf, squareAt } from './board-geometry';
import { BISHOP, LANCE, PAWN, pieceOf, ROOK, typeOf, unpromoted } from './pieces';
import type { ShogiPosition } from './position';

/** How near the kings a promotion can make a difference that is not to the mover's liking: in king's steps. */
const NEAR = 2;

/**
 * The legal moves that a player chooses from: all but promotions declined without a reason. A pawn, a bishop, a rook, and a
 * lance on the second rank, lose nothing by promoting. The one reason to decline is that a pawn may not be dropped to give mate:
 * it counts where either king could be given mate so, and the piece comes near it.
 */
export function choices(position: ShogiPosition): Move[] {
  return position.legalMoves().filter((move) => !isPointless(position, move));
}

function isPointless(position: ShogiPosition, move: Move): boolean {
  if (dropOf(move) !== 0 || promotionOf(move) !== 0) return false;
  const { side, board } = position;
  const to = toOf(move);
  const from = fromOf(move);
  const type = typeOf(board[from]!);
  const far = rankFor(to, side);
  if (far > 3 && rankFor(from, side) > 3) return false;
  const losesNothing =
    type === PAWN || type === BISHOP || type === ROOK || (type === LANCE && far === 2);
  return losesNothing && !([0, 1] as const).some((king) => mattersTo(position, king, from, to));
}

/** Whether a pawn dropped before a king may be mate, and what goes from one square to another has a part in it. */
function mattersTo(position: ShogiPosition, owner: 0 | 1, from: Square, to: Square): boolean {
  const { board, hands, kings, side } = position;
  const king = kings[owner];
  if (king < 0) return false;
  const apart = Math.max(Math.abs(fileOf(to) - fileOf(king)), Math.abs(rankOf(to) - rankOf(king)));
  if (apart > NEAR) return false;
  const attacker = otherSide(owner);
  const taken = board[to]!;
  const takesPawn = attacker === side && taken !== 0 && unpromoted(typeOf(taken)) === PAWN;
  if (hands[attacker][PAWN] === 0 && !takesPawn) return false;
  const rank = rankOf(king) + (attacker === 0 ? 1 : -1);
  if (rank < 1 || rank > 9) return false;
  const file = fileOf(king);
  const before = squareAt(file, rank);
  if ((board[before] !== 0 && before !== from) || before === to) return false;
  const pawn = pieceOf(PAWN, attacker);
  for (let other = 1; other <= 9; other++) {
    const square = squareAt(file, other);
    if (board[square] === pawn && square !== from) return false;
  }
  return true;
}
