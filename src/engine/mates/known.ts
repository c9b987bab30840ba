import { holdsAll } from './hand';

/**
 * What is known of positions, by board and the attacker's hand. A mate holds for whoever holds at least what it needs; that
 * there is none, for whoever holds at most as much.
 *
 * An entry: board (8 bytes), hand, proof number, disproof number, effort (4 each), plies of the mate (255: none known),
 * one more than the plies within which there is none, age (1 each).
 */
const ENTRY: usize = 32;
/** Entries of one bucket. */
const BUCKET: usize = 16 * ENTRY;
let table: usize = 0;
let mask: u64 = 0;
/** What earlier questions left behind gives way first. */
let age: u8 = 0;
/** Which entries of a bucket are to give way is left to chance, lest two push each other out for ever. */
let dice: u32 = 1;

export let foundMate: u32 = 0;
export let foundMateHand: u32 = 0;
export let foundSafe: u32 = 0;
export let foundProof: u32 = 0;
export let foundDisproof: u32 = 0;

/** Uses memory at an address, all zero; `bytes`: a power of two, at least 256. */
export function useMateTable(address: usize, bytes: u32): void {
  table = address;
  mask = <u64>(bytes / <u32>BUCKET) - 1;
}

export function forgetMates(): void {
  memory.fill(table, 0, <usize>(mask + 1) * BUCKET);
  dice = 1;
}

// @ts-ignore: decorator
@inline function bucketOf(board: u64): usize {
  return table + <usize>(board & mask) * BUCKET;
}

/** Writes what is known of a position to {@link foundMate} and the others. */
export function lookUp(board: u64, hand: u32): void {
  const bucket = bucketOf(board);
  foundMate = 255;
  foundMateHand = 0;
  foundSafe = 0;
  foundProof = 1;
  foundDisproof = 1;
  for (let entry = bucket; entry < bucket + BUCKET; entry += ENTRY) {
    if (load<u64>(entry) != board) continue;
    const held = load<u32>(entry, 8);
    const mate = <u32>load<u8>(entry, 24);
    const safe = <u32>load<u8>(entry, 25);
    if (mate < foundMate && holdsAll(hand, held)) {
      foundMate = mate;
      foundMateHand = held;
    }
    if (safe > foundSafe && holdsAll(held, hand)) foundSafe = safe;
    if (held == hand) {
      foundProof = load<u32>(entry, 12);
      foundDisproof = load<u32>(entry, 16);
    }
  }
}

/** A new question begins; what is known stays. */
export function growOlder(): void {
  age++;
}

/** Where a position is to be noted. */
function entryFor(board: u64, hand: u32, effort: u32): usize {
  const bucket = bucketOf(board);
  let free: usize = 0;
  for (let entry = bucket; entry < bucket + BUCKET; entry += ENTRY) {
    if (load<u64>(entry) == board && load<u32>(entry, 8) == hand) {
      store<u32>(entry, load<u32>(entry, 20) + effort, 20);
      store<u8>(entry, age, 26);
      return entry;
    }
    if (free == 0 && (load<u64>(entry) == 0 || load<u8>(entry, 26) != age)) free = entry;
  }
  const found = free != 0 ? free : lesserOfTwo(bucket);
  store<u64>(found, board);
  store<u32>(found, hand, 8);
  store<u32>(found, 1, 12);
  store<u32>(found, 1, 16);
  store<u32>(found, effort, 20);
  store<u8>(found, 255, 24);
  store<u8>(found, 0, 25);
  store<u8>(found, age, 26);
  return found;
}

/** Of two entries taken by chance, the one with less effort. */
function lesserOfTwo(bucket: usize): usize {
  dice = dice * 1664525 + 1013904223;
  const one = bucket + <usize>((dice >> 28) & 15) * ENTRY;
  const other = bucket + <usize>((dice >> 24) & 15) * ENTRY;
  return load<u32>(one, 20) <= load<u32>(other, 20) ? one : other;
}

/** @param hand that the mate needs */
export function noteMate(board: u64, hand: u32, plies: u32, effort: u32): void {
  const entry = entryFor(board, hand, effort);
  if (plies < <u32>load<u8>(entry, 24)) store<u8>(entry, <u8>plies, 24);
}

/** @param plies within which there is no mate; 254: none at all */
export function noteSafe(board: u64, hand: u32, plies: u32, effort: u32): void {
  const entry = entryFor(board, hand, effort);
  if (plies + 1 > <u32>load<u8>(entry, 25)) store<u8>(entry, <u8>(plies + 1), 25);
}

export function noteNumbers(board: u64, hand: u32, proof: u32, disproof: u32, effort: u32): void {
  const entry = entryFor(board, hand, effort);
  store<u32>(entry, proof, 12);
  store<u32>(entry, disproof, 16);
}
