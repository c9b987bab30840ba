import { fileOf, rankOf, squareAt, squareName, squareOfName } from './board-geometry';
import { KING, letterOfPiece, PAWN, pieceOf, pieceOfLetter, ROOK, typeOf } from './pieces';
import { BLACK_LONG, BLACK_SHORT, ChessPosition, WHITE_LONG, WHITE_SHORT } from './position';
import { otherSide, PositionError, type Side } from '../game/ruleset';

export const CHESS_START = 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1';

/**
 * Reads a FEN of four or six fields.
 * @throws PositionError naming the field, or the reason why this can't be a position
 */
export const readFen = (text: string): ChessPosition =>
  text === CHESS_START ? (usual ??= read(text)).clone() : read(text);

/** Where nearly all games start: read once. */
let usual: ChessPosition | null = null;

function read(text: string): ChessPosition {
  const fields = text.trim().split(/\s+/);
  const [placement, side, castling, enPassant, halfmoves = '0', fullmoves = '1'] = fields;
  if (fields.length < 4 || fields.length > 6)
    throw new PositionError('fen.fields', { found: fields.length });
  const position = new ChessPosition();
  readPlacement(position, placement!);
  if (side !== 'w' && side !== 'b') throw new PositionError('fen.side', { found: side! });
  position.side = side === 'w' ? 0 : 1;
  position.halfmoves = readCount('fen.halfmoves', halfmoves);
  position.fullmoves = Math.max(1, readCount('fen.fullmoves', fullmoves));
  requireKings(position);
  readCastling(position, castling!);
  readEnPassant(position, enPassant!);
  position.settle();
  const idle = otherSide(position.side);
  if (position.isAttacked(position.kings[idle], position.side))
    throw new PositionError('position.idleInCheck', { side: idle === 0 ? 'white' : 'black' });
  return position;
}

function readPlacement(position: ChessPosition, placement: string): void {
  const rows = placement.split('/');
  if (rows.length !== 8) throw new PositionError('fen.rows', { found: rows.length });
  rows.forEach((row, index) => {
    const rank = 7 - index;
    let file = 0;
    for (const letter of row) {
      if (letter >= '1' && letter <= '8') {
        file += Number(letter);
        continue;
      }
      const piece = pieceOfLetter(letter);
      if (piece === 0) throw new PositionError('fen.letter', { found: letter, row: rank + 1 });
      if (file > 7) throw new PositionError('fen.rowLength', { row: rank + 1 });
      if (typeOf(piece) === PAWN && (rank === 0 || rank === 7))
        throw new PositionError('position.pawnRank', { square: squareName(squareAt(file, rank)) });
      position.board[squareAt(file, rank)] = piece;
      file++;
    }
    if (file !== 8) throw new PositionError('fen.rowLength', { row: rank + 1 });
  });
}

function readCount(code: string, text: string): number {
  if (text === '-') return 0;
  if (!/^\d{1,5}$/.test(text)) throw new PositionError(code, { found: text });
  return Number(text);
}

function requireKings(position: ChessPosition): void {
  for (const side of [0, 1] as const) {
    const king = pieceOf(KING, side);
    const squares = [...position.board.keys()].filter((square) => position.board[square] === king);
    const name = side === 0 ? 'white' : 'black';
    if (squares.length === 0) throw new PositionError('position.noKing', { side: name });
    if (squares.length > 1) throw new PositionError('position.manyKings', { side: name });
    position.kings[side] = squares[0]!;
  }
}

const RIGHTS = [
  { letter: 'K', right: WHITE_SHORT, side: 0, rookFile: 7 },
  { letter: 'Q', right: WHITE_LONG, side: 0, rookFile: 0 },
  { letter: 'k', right: BLACK_SHORT, side: 1, rookFile: 7 },
  { letter: 'q', right: BLACK_LONG, side: 1, rookFile: 0 },
] as const;

function readCastling(position: ChessPosition, text: string): void {
  if (text === '-') return;
  if (/[A-Ha-h]/.test(text) && /^[A-Ha-hKQkq]{1,4}$/.test(text))
    throw new PositionError('position.shuffled', { found: text });
  if (!/^[KQkq]{1,4}$/.test(text)) throw new PositionError('fen.castling', { found: text });
  for (const { letter, right, side, rookFile } of RIGHTS) {
    if (!text.includes(letter)) continue;
    const rank = side === 0 ? 0 : 7;
    const rook = pieceOf(ROOK, side);
    const king = position.kings[side];
    const kingAtHome = king === squareAt(4, rank);
    if (!kingAtHome || position.board[squareAt(rookFile, rank)] !== rook) {
      if (rankOf(king) === rank && hasRookBeside(position, side, rank, rookFile > 4))
        throw new PositionError('position.shuffled', { found: text });
      throw new PositionError('position.castlingRight', { found: letter });
    }
    position.castling |= right;
  }
}

function hasRookBeside(position: ChessPosition, side: Side, rank: number, short: boolean): boolean {
  const king = fileOf(position.kings[side]);
  for (let file = 0; file < 8; file++)
    if (
      (short ? file > king : file < king) &&
      position.board[squareAt(file, rank)] === pieceOf(ROOK, side)
    )
      return true;
  return false;
}

function readEnPassant(position: ChessPosition, text: string): void {
  if (text === '-') return;
  const square = squareOfName(text);
  if (square < 0) throw new PositionError('fen.enPassant', { found: text });
  const mover = otherSide(position.side);
  const forward = mover === 0 ? 8 : -8;
  const passed =
    rankOf(square) === (mover === 0 ? 2 : 5) &&
    position.board[square] === 0 &&
    position.board[square - forward] === 0 &&
    position.board[square + forward] === pieceOf(PAWN, mover);
  if (!passed) throw new PositionError('position.enPassant', { square: text });
  position.enPassant = square;
}

/**
 * Writes all six fields. The en passant square is written after every double step, or with
 * `enPassant: 'legal'` only where a capture is legal.
 */
export function writeFen(
  position: ChessPosition,
  { enPassant = 'always' }: { enPassant?: 'always' | 'legal' } = {},
): string {
  const shown =
    position.enPassant >= 0 && (enPassant === 'always' || position.enPassantIsLegal())
      ? squareName(position.enPassant)
      : '-';
  const side = position.side === 0 ? 'w' : 'b';
  return `${writePlacement(position)} ${side} ${writeCastling(position)} ${shown} ${position.halfmoves} ${position.fullmoves}`;
}

function writePlacement(position: ChessPosition): string {
  const rows: string[] = [];
  for (let rank = 7; rank >= 0; rank--) {
    let row = '';
    let empty = 0;
    for (let file = 0; file < 8; file++) {
      const piece = position.board[squareAt(file, rank)]!;
      if (piece === 0) {
        empty++;
        continue;
      }
      if (empty > 0) row += empty;
      empty = 0;
      row += letterOfPiece(piece);
    }
    rows.push(empty > 0 ? row + empty : row);
  }
  return rows.join('/');
}

const writeCastling = (position: ChessPosition): string =>
  RIGHTS.filter(({ right }) => (position.castling & right) !== 0)
    .map(({ letter }) => letter)
    .join('') || '-';
