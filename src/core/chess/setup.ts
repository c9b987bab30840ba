import type { PositionSetup } from '../game/ruleset';
import { squareName } from './board-geometry';
import { BISHOP, KING, KNIGHT, letterOfPiece, PAWN, pieceOf, QUEEN, ROOK } from './pieces';
import { BLACK_LONG, BLACK_SHORT, ChessPosition, WHITE_LONG, WHITE_SHORT } from './position';

const TYPES = [KING, QUEEN, ROOK, BISHOP, KNIGHT, PAWN];
const RIGHTS: Readonly<Record<string, number>> = {
  K: WHITE_SHORT,
  Q: WHITE_LONG,
  k: BLACK_SHORT,
  q: BLACK_LONG,
};

/** A copy with a change; the kings are looked for anew, since one may be missing. */
function changed(position: ChessPosition, change: (copy: ChessPosition) => void): ChessPosition {
  const copy = position.clone();
  change(copy);
  copy.kings = [-1, -1];
  return copy.settle();
}

function passable({ board, side }: ChessPosition): { square: number; name: string }[] {
  const [rank, forward] = side === 0 ? [5, -8] : [2, 8];
  const pawn = pieceOf(PAWN, side === 0 ? 1 : 0);
  return Array.from({ length: 8 }, (_, file) => rank * 8 + file)
    .filter(
      (square) =>
        board[square] === 0 && board[square + forward] === pawn && board[square - forward] === 0,
    )
    .map((square) => ({ square, name: squareName(square) }));
}

export const chessSetup: PositionSetup<ChessPosition> = {
  pieces: ([0, 1] as const).flatMap((side) => TYPES.map((type) => pieceOf(type, side))),
  letter: letterOfPiece,
  pieceAt: ({ board }, square) => board[square]!,
  empty: () => new ChessPosition().settle(),
  opposite: (square) => square ^ 56,
  put: (position, square, piece) =>
    changed(position, (copy) => {
      copy.board[square] = piece;
      if (!passable(copy).some((one) => one.square === copy.enPassant)) copy.enPassant = -1;
    }),
  turn: (position, side) =>
    changed(position, (copy) => {
      copy.side = side;
      copy.enPassant = -1;
    }),
  handTypes: [],
  held: () => 0,
  hold: (position) => position,
  rights: Object.keys(RIGHTS).map((right) => ({
    right,
    side: right === right.toUpperCase() ? 0 : 1,
    move: right.toUpperCase() === 'K' ? 'O-O' : 'O-O-O',
  })),
  hasRight: ({ castling }, right) => (castling & RIGHTS[right]!) !== 0,
  toggleRight: (position, right) =>
    changed(position, (copy) => {
      copy.castling ^= RIGHTS[right]!;
    }),
  passable,
  passed: ({ enPassant }) => enPassant,
  pass: (position, square) =>
    changed(position, (copy) => {
      copy.enPassant = square;
    }),
};
