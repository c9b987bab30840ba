import type { Phase } from '../game/ruleset';
import { BISHOP, HAND_ORDER, KING, PAWN, typeOf } from './pieces';
import type { ShogiPosition } from './position';

/** Loose pieces with which it is an ending. */
const ENDING = 6;

/**
 * Which part of the game a position belongs to, by its loose pieces: those in hand but pawns, and the promoted ones.
 * A bishop exchange alone belongs to many openings.
 */
export function shogiPhase({ board, hands }: ShogiPosition): Phase {
  const inHand = (type: number): number => hands[0][type]! + hands[1][type]!;
  const promoted = board.reduce((sum, piece) => sum + Number(typeOf(piece) > KING), 0);
  const loose =
    promoted + HAND_ORDER.reduce((sum, type) => sum + (type === PAWN ? 0 : inHand(type)), 0);
  if (loose >= ENDING) return 'ending';
  return loose - inHand(BISHOP) > 0 ? 'middlegame' : 'opening';
}
