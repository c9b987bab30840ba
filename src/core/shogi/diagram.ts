import type { Side } from '../game/ruleset';
import { squareAt } from './board-geometry';
import { HAND_ORDER, letterOfType, LETTERS, sideOf, typeOf } from './pieces';
import type { ShogiPosition } from './position';

/** A diagram in plain letters between the two hands, for mail and chat; capitals are Black's pieces. */
export function shogiDiagram({ board, hands }: ShogiPosition): string {
  const name = (piece: number): string => {
    const letter = letterOfType(typeOf(piece));
    return sideOf(piece) === 0 ? letter : letter.toLowerCase();
  };
  const rows = Array.from({ length: 9 }, (_, row) => {
    const cells = Array.from({ length: 9 }, (_, column) => {
      const piece = board[squareAt(9 - column, row + 1)]!;
      return (piece === 0 ? '.' : name(piece)).padStart(2);
    });
    return `${cells.join(' ')}  ${'abcdefghi'[row]}`;
  });
  const hand = (side: Side): string => {
    const held = HAND_ORDER.filter((type) => hands[side][type]! > 0);
    const texts = held.map((type) => {
      const count = hands[side][type]!;
      return `${count > 1 ? count : ''}${LETTERS[type]}`;
    });
    return texts.length > 0 ? texts.join(' ') : '-';
  };
  const files = Array.from({ length: 9 }, (_, column) => String(9 - column).padStart(2)).join(' ');
  return [`White: ${hand(1)}`, files, ...rows, `Black: ${hand(0)}`].join('\n');
}
