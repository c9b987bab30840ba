/** Moves are packed as in core/game/move.ts; squares are numbered as the game's rules here number them. */
// @ts-ignore: decorator
@inline export function fromOf(move: i32): i32 {
  return move & 127;
}
// @ts-ignore: decorator
@inline export function toOf(move: i32): i32 {
  return (move >> 7) & 127;
}
// @ts-ignore: decorator
@inline export function dropOf(move: i32): i32 {
  return (move >> 14) & 15;
}
// @ts-ignore: decorator
@inline export function promotionOf(move: i32): i32 {
  return (move >> 18) & 15;
}

/** Moves that a line may have. */
export const GAME_PLIES: i32 = 512;

/** Kinds of moves to generate: captures and promotions, or the others. */
export const TACTICAL: i32 = 1;
export const QUIET: i32 = 2;
export const ALL_MOVES: i32 = 3;

/** Moves generated at all plies of the line that is being searched, one after the other. */
export const MOVE_LIST = new StaticArray<i32>(256 * 600);
export const MOVE_SCORES = new StaticArray<i32>(256 * 600);

export function listedMove(place: i32): i32 {
  return MOVE_LIST[place];
}
