import { boardMove, dropMove, dropOf, fromOf, promotionOf, toOf, type Move } from '../../game/move';
import { fileOf, rankOf, squareAt } from '../../shogi/board-geometry';
import { PROMOTED, typeOf } from '../../shogi/pieces';
import type { ShogiPosition } from '../../shogi/position';
import { CSA_NAMES, typeOfCsa } from './csa-pieces';

/** The move of `+7776FU` (the sign is not looked at), or null where it can be none. */
export function readCsaMove(position: ShogiPosition, text: string): Move | null {
  const match = /^[+-]?(\d)(\d)([1-9])([1-9])([A-Z]{2})$/.exec(text);
  if (!match) return null;
  const type = typeOfCsa(match[5]!);
  const to = squareAt(Number(match[3]), Number(match[4]));
  if (type < 1) return null;
  if (match[1] === '0' && match[2] === '0') return dropMove(type, to);
  if (match[1] === '0' || match[2] === '0') return null;
  const from = squareAt(Number(match[1]), Number(match[2]));
  const before = typeOf(position.board[from]!);
  if (before === type) return boardMove(from, to);
  return before + PROMOTED === type ? boardMove(from, to, 1) : null;
}

/** `+7776FU`; the piece is named as it is after the move. */
export function writeCsaMove(position: ShogiPosition, move: Move): string {
  const sign = position.side === 0 ? '+' : '-';
  const to = toOf(move);
  const target = `${fileOf(to)}${rankOf(to)}`;
  const dropped = dropOf(move);
  if (dropped !== 0) return `${sign}00${target}${CSA_NAMES[dropped]}`;
  const from = fromOf(move);
  const type = typeOf(position.board[from]!) + (promotionOf(move) ? PROMOTED : 0);
  return `${sign}${fileOf(from)}${rankOf(from)}${target}${CSA_NAMES[type]}`;
}
