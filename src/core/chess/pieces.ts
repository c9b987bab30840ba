import type { Side } from '../game/ruleset';

export const PAWN = 1;
export const KNIGHT = 2;
export const BISHOP = 3;
export const ROOK = 4;
export const QUEEN = 5;
export const KING = 6;

/** A piece is its type, plus 8 for Black; 0 is an empty square. */
export const BLACK_BIT = 8;
export const typeOf = (piece: number): number => piece & 7;
export const sideOf = (piece: number): Side => (piece >> 3) as Side;
export const pieceOf = (type: number, side: Side): number => type | (side << 3);

/** Letters by piece type, as in SAN; the pawn's is used in FEN only. */
export const LETTERS = ['', 'P', 'N', 'B', 'R', 'Q', 'K'] as const;

export const letterOfPiece = (piece: number): string => {
  const letter = LETTERS[typeOf(piece)] ?? '';
  return sideOf(piece) === 0 ? letter : letter.toLowerCase();
};

/** The piece of a FEN letter, or 0. */
export function pieceOfLetter(letter: string): number {
  const type = LETTERS.indexOf(letter.toUpperCase() as (typeof LETTERS)[number]);
  if (type < PAWN) return 0;
  return pieceOf(type, letter === letter.toUpperCase() ? 0 : 1);
}
