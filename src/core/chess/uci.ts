import { squareName, squareOfName } from './board-geometry';
import { LETTERS } from './pieces';
import { boardMove, fromOf, NULL_MOVE, promotionOf, toOf, type Move } from '../game/move';

/** The UCI text of a move: `e2e4`, `e7e8q`, castling as the king's move, `0000` for the null move. */
export function writeUci(move: Move): string {
  if (move === NULL_MOVE) return '0000';
  const promotion = promotionOf(move);
  const letter = promotion === 0 ? '' : LETTERS[promotion]!.toLowerCase();
  return squareName(fromOf(move)) + squareName(toOf(move)) + letter;
}

/** The move of a UCI text, or null where it is none. */
export function readUci(text: string): Move | null {
  if (text === '0000') return NULL_MOVE;
  const match = /^([a-h][1-8])([a-h][1-8])([nbrq]?)$/.exec(text);
  if (!match || match[1] === match[2]) return null;
  const promotion = match[3] === '' ? 0 : LETTERS.indexOf(match[3]!.toUpperCase() as 'Q');
  return boardMove(squareOfName(match[1]!), squareOfName(match[2]!), promotion);
}
