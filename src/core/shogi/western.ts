import { dropOf, fromOf, NULL_MOVE, promotionOf, toOf, type Move } from '../game/move';
import { rankFor, squareName } from './board-geometry';
import { canPromote, letterOfType, LETTERS, typeOf } from './pieces';
import type { ShogiPosition } from './position';

/**
 * Western notation of a legal shogi move: `P-7f`, `Bx2b+`, `N*4e`, the origin where another piece of the
 * kind could go there too (`G6i-5h`), `=` for a promotion declined; `--` for the null move.
 */
export function writeWestern(position: ShogiPosition, move: Move): string {
  if (move === NULL_MOVE) return '--';
  const to = toOf(move);
  const dropped = dropOf(move);
  if (dropped !== 0) return `${LETTERS[dropped]}*${squareName(to)}`;
  const from = fromOf(move);
  const type = typeOf(position.board[from]!);
  const origin = rivalsOf(position, move).length > 0 ? squareName(from) : '';
  const joint = position.board[to] !== 0 ? 'x' : '-';
  return letterOfType(type) + origin + joint + squareName(to) + promotionSign(position, move);
}

function promotionSign(position: ShogiPosition, move: Move): '+' | '=' | '' {
  if (promotionOf(move)) return '+';
  const { side } = position;
  const from = fromOf(move);
  const inZone = rankFor(from, side) <= 3 || rankFor(toOf(move), side) <= 3;
  return inZone && canPromote(typeOf(position.board[from]!)) ? '=' : '';
}

/** Legal board moves to the same square by other pieces of the same kind, one for each origin. */
export function rivalsOf(position: ShogiPosition, move: Move): Move[] {
  const from = fromOf(move);
  const piece = position.board[from];
  const rivals: Move[] = [];
  const seen = new Set([from]);
  const pseudo: Move[] = [];
  const end = position.pseudoLegalMoves(pseudo);
  const checked = position.inCheck();
  for (let i = 0; i < end; i++) {
    const other = pseudo[i]!;
    if (dropOf(other) !== 0 || toOf(other) !== toOf(move)) continue;
    const origin = fromOf(other);
    if (seen.has(origin) || position.board[origin] !== piece) continue;
    if (!position.isLegalAfterAll(other, checked)) continue;
    seen.add(origin);
    rivals.push(other);
  }
  return rivals;
}
