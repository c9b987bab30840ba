/**
 * What a move of the line changed: at most two placements that it added, and two that it dropped. A placement is the
 * number that the rules give to a piece and where it is, on the board or in a hand; 0: none.
 */
export let added: i32 = 0;
export let alsoAdded: i32 = 0;
export let dropped: i32 = 0;
export let alsoDropped: i32 = 0;

export function noteChange(drops: i32, adds: i32, alsoDrops: i32, alsoAdds: i32): void {
  dropped = drops;
  added = adds;
  alsoDropped = alsoDrops;
  alsoAdded = alsoAdds;
}
