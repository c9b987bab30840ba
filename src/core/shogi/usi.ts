import { boardMove, dropMove, dropOf, fromOf, NULL_MOVE, promotionOf, toOf } from '../game/move';
import type { Move } from '../game/move';
import { squareName, squareOfName } from './board-geometry';
import { GOLD, LETTERS } from './pieces';

/** The USI text of a move: `7g7f`, `8h2b+`, `P*5e`, `0000` for the null move. */
export function writeUsi(move: Move): string {
  if (move === NULL_MOVE) return '0000';
  const to = squareName(toOf(move));
  const dropped = dropOf(move);
  if (dropped !== 0) return `${LETTERS[dropped]}*${to}`;
  return squareName(fromOf(move)) + to + (promotionOf(move) ? '+' : '');
}

/** The move of a USI text, or null where it is none. */
export function readUsi(text: string): Move | null {
  if (text === '0000') return NULL_MOVE;
  const drop = /^([PLNSBRG])\*([1-9][a-i])$/.exec(text);
  if (drop) {
    const type = LETTERS.indexOf(drop[1] as 'P');
    return type >= 1 && type <= GOLD ? dropMove(type, squareOfName(drop[2]!)) : null;
  }
  const match = /^([1-9][a-i])([1-9][a-i])(\+?)$/.exec(text);
  if (!match || match[1] === match[2]) return null;
  return boardMove(squareOfName(match[1]!), squareOfName(match[2]!), match[3] ? 1 : 0);
}
