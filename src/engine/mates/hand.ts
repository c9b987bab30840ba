/**
 * The pieces that an attacker holds, packed: for each type a count with a spare bit above it, so that hands compare and
 * change as whole numbers. From the lowest bit: pawns 5 bits, lances 3, knights 3, silvers 3, bishops 2, rooks 2, golds 3.
 */
export const HAND_SHIFTS = StaticArray.fromArray<i32>([0, 0, 6, 10, 14, 18, 21, 24]);
const COUNTS = StaticArray.fromArray<u32>([0, 31, 7, 7, 7, 3, 3, 7]);
const SPARE: u32 = (1 << 5) | (1 << 9) | (1 << 13) | (1 << 17) | (1 << 20) | (1 << 23) | (1 << 27);

/** Whether one hand holds at least what another does, of each type. */
// @ts-ignore: decorator
@inline export function holdsAll(hand: u32, other: u32): bool {
  return (((hand | SPARE) - other) & SPARE) == SPARE;
}

/** How many of a type a hand holds. */
// @ts-ignore: decorator
@inline export function countIn(hand: u32, type: i32): u32 {
  return (hand >> HAND_SHIFTS[type]) & COUNTS[type];
}

/** What holds of each type as many as the one of two hands that holds more. */
export function larger(one: u32, other: u32): u32 {
  if (holdsAll(one, other)) return one;
  if (holdsAll(other, one)) return other;
  let both: u32 = 0;
  for (let type = 1; type <= 7; type++) both |= max(countIn(one, type), countIn(other, type)) << HAND_SHIFTS[type];
  return both;
}
