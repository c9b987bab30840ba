import type { Side } from '../game/ruleset';
import { squareOfName } from './board-geometry';
import { GOLD, KING, LANCE, pieceOf, SILVER } from './pieces';
import type { ShogiPosition } from './position';

export type Castle = 'yagura' | 'mino' | 'leftMino' | 'anaguma' | 'boat' | 'none';

/** Where the pieces that make a castle stand, from Black's view; the fuller shapes first. */
const SHAPES: readonly [Castle, Readonly<Record<string, number>>][] = [
  ['anaguma', { '9i': KING, '9h': LANCE, '8h': SILVER }],
  ['anaguma', { '1i': KING, '1h': LANCE, '2h': SILVER }],
  ['yagura', { '8h': KING, '7h': GOLD, '6g': GOLD, '7g': SILVER }],
  ['mino', { '2h': KING, '3h': SILVER, '4i': GOLD }],
  ['leftMino', { '8h': KING, '7h': SILVER, '6i': GOLD }],
  ['boat', { '7h': KING, '7i': SILVER, '6i': GOLD, '5h': GOLD }],
];

/** The castle in which a side's king stands, by the usual names. */
export function castleOf({ board }: ShogiPosition, side: Side): Castle {
  const at = (name: string): number => {
    const square = squareOfName(name);
    return board[side === 0 ? square : 80 - square]!;
  };
  const found = SHAPES.find(([, pieces]) =>
    Object.entries(pieces).every(([name, type]) => at(name) === pieceOf(type, side)),
  );
  return found?.[0] ?? 'none';
}
