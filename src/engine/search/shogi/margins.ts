/**
 * What of the search was found by play, to be tuned by it: hundredths of a pawn where nothing else is said. `./bektra tune` sets them from
 * outside in a build of its own.
 */

/** By so much a ply a position stands above the window that need not be searched. */
export const ABOVE: i32 = 80;
/** So far below it, and by so much more for the square of the depth, quiescence alone is asked. */
export const BELOW: i32 = 150;
export const BELOW_SQUARE: i32 = 170;
/** A pass is searched less by as many plies as a position stands above the window by so much. */
export const PASS: i32 = 180;
/** Quiet moves are given up where a position stands so far below the window, and by so much more for each ply that would be left. */
export const HOPELESS: i32 = 110;
export const HOPELESS_PLY: i32 = 95;
/** Of the square of the depth, in hundredths: how many quiet moves are tried, and how many at least. */
export const QUIETS: i32 = 200;
export const QUIETS_LEAST: i32 = 4;
/** History a ply, below nothing, from which on a quiet move is given up. */
export const UNPROMISING: i32 = 3500;
/** What a quiet move may lose in exchanges for the square of the plies that would be left, another for each ply. */
export const QUIET_LOSS: i32 = 40;
export const TACTICAL_LOSS: i32 = 90;
/** History that is worth a ply of a late move's reduction. */
export const HISTORY_PLY: i32 = 9000;
/** Of a late move's reduction, in hundredths of a ply: what it is at least, and for the product of the logarithms of depth and number. */
export const REDUCTION: i32 = 70;
export const REDUCTION_GROWTH: i32 = 46;
/** By how much a move must stand above the others to be looked at more deeply: for each ply, in quarters. */
export const SINGULAR: i32 = 8;
/** By how much a capture must be able to reach the window in quiescence. */
export const CAPTURE: i32 = 160;
/** Half the first window around the score of the depth before. */
export const WINDOW: i32 = 30;
/** What is learned from a move that was too good: for the square of the depth, for each ply, and at most. */
export const LEARN_SQUARE: i32 = 16;
export const LEARN_PLY: i32 = 120;
export const LEARN_MOST: i32 = 1800;
