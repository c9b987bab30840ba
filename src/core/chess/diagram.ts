import { squareAt } from './board-geometry';
import { letterOfPiece } from './pieces';
import type { ChessPosition } from './position';

/** A diagram in plain letters, for mail and chat; capitals are White's pieces. */
export function chessDiagram({ board }: ChessPosition): string {
  const rows = Array.from({ length: 8 }, (_, row) => {
    const cells = Array.from({ length: 8 }, (_, file) => {
      const piece = board[squareAt(file, 7 - row)]!;
      return piece === 0 ? '.' : letterOfPiece(piece);
    });
    return `${8 - row}  ${cells.join(' ')}`;
  });
  return [...rows, '', '   a b c d e f g h'].join('\n');
}
