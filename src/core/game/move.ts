declare const moveBrand: unique symbol;

/**
 * A move of either game, packed into an integer: bits 0–6 origin square, 7–13 target square,
 * 14–17 piece type dropped (0: none), 18–21 promotion (chess: piece type, shogi: 1; 0: none).
 * A move means something only together with the position in which it is played.
 */
export type Move = number & { readonly [moveBrand]: true };

/** A square of the board as numbered by its ruleset. */
export type Square = number;

/** The move that passes (`--` in PGN). Never legal; kept because recorded games contain it. */
export const NULL_MOVE = 0 as Move;

export const boardMove = (from: Square, to: Square, promotion = 0): Move =>
  (from | (to << 7) | (promotion << 18)) as Move;

export const dropMove = (piece: number, to: Square): Move => ((to << 7) | (piece << 14)) as Move;

export const fromOf = (move: Move): Square => move & 127;
export const toOf = (move: Move): Square => (move >> 7) & 127;

/** Where the move before led; -1 where there is none, or where it was a pass. */
export const targetOf = (previous: Move | null): Square | -1 =>
  previous === null || previous === NULL_MOVE ? -1 : toOf(previous);
export const dropOf = (move: Move): number => (move >> 14) & 15;
export const promotionOf = (move: Move): number => (move >> 18) & 15;
