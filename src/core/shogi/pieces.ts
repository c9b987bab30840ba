import type { Side } from '../game/ruleset';

export const PAWN = 1;
export const LANCE = 2;
export const KNIGHT = 3;
export const SILVER = 4;
export const BISHOP = 5;
export const ROOK = 6;
export const GOLD = 7;
export const KING = 8;
/** Added to a type when it promotes. */
export const PROMOTED = 8;
export const HORSE = BISHOP + PROMOTED;
export const DRAGON = ROOK + PROMOTED;

/** A piece is its type, plus 16 for White (the upper side); 0 is an empty square. */
export const typeOf = (piece: number): number => piece & 15;
export const sideOf = (piece: number): Side => (piece >> 4) as Side;
export const pieceOf = (type: number, side: Side): number => type | (side << 4);

/** The type a piece has in hand. */
export const unpromoted = (type: number): number => (type > KING ? type - PROMOTED : type);
export const canPromote = (type: number): boolean => type <= ROOK;

/** Letters of the types that have one of their own, as in USI. */
export const LETTERS = ['', 'P', 'L', 'N', 'S', 'B', 'R', 'G', 'K'] as const;

/** `P` … `K`, promoted types as `+P`. */
export const letterOfType = (type: number): string =>
  type > KING ? `+${LETTERS[type - PROMOTED]}` : LETTERS[type]!;

/** The order in which SFEN lists the pieces in hand, strongest first. */
export const HAND_ORDER = [ROOK, BISHOP, GOLD, SILVER, KNIGHT, LANCE, PAWN] as const;

/** How many of each unpromoted type a set holds. */
export const SET_COUNTS = [0, 18, 4, 4, 4, 2, 2, 4, 2] as const;
