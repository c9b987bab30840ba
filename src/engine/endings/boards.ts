/** Squares a1 = 0 … h8 = 63, sets of them as 64 bits, and what men attack. */
export const KING: i32 = 0;
export const QUEEN: i32 = 1;
export const ROOK: i32 = 2;
export const BISHOP: i32 = 3;
export const KNIGHT: i32 = 4;
export const PAWN: i32 = 5;

/** Steps of file and rank; those of the first half of each group lead to higher squares. */
const STEPS: StaticArray<i32> = StaticArray.fromArray<i32>([
  0, 1, 1, 0, 0, -1, -1, 0, 1, 1, -1, 1, 1, -1, -1, -1,
]);
const rays = new StaticArray<u64>(8 * 64);
const kings = new StaticArray<u64>(64);
const knights = new StaticArray<u64>(64);
const pawns = new StaticArray<u64>(2 * 64);
const inner = new StaticArray<u64>(64 * 64);

/** The square so many files and ranks away; -1: off the board. */
function squareBeside(square: i32, files: i32, ranks: i32): i32 {
  const file = (square & 7) + files;
  const rank = (square >> 3) + ranks;
  return file < 0 || file > 7 || rank < 0 || rank > 7 ? -1 : (rank << 3) | file;
}

// @ts-ignore: decorator
@inline export function bit(square: i32): u64 {
  return (<u64>1) << (<u64>square);
}

function bitBeside(square: i32, files: i32, ranks: i32): u64 {
  const there = squareBeside(square, files, ranks);
  return there < 0 ? 0 : bit(there);
}

function setUp(): void {
  for (let square = 0; square < 64; square++) {
    for (let way = 0; way < 8; way++) {
      const files = STEPS[2 * way];
      const ranks = STEPS[2 * way + 1];
      kings[square] |= bitBeside(square, files, ranks);
      let passed: u64 = 0;
      for (let there = squareBeside(square, files, ranks); there >= 0; there = squareBeside(there, files, ranks)) {
        inner[(square << 6) | there] = passed;
        passed |= bit(there);
      }
      rays[(way << 6) | square] = passed;
    }
    for (let side = -1; side <= 1; side += 2) {
      for (let way = -1; way <= 1; way += 2)
        knights[square] |= bitBeside(square, side, 2 * way) | bitBeside(square, 2 * side, way);
      pawns[square] |= bitBeside(square, side, 1);
      pawns[64 | square] |= bitBeside(square, side, -1);
    }
  }
}
setUp();

// @ts-ignore: decorator
@inline function rising(way: i32, square: i32, occupied: u64): u64 {
  const ray = rays[(way << 6) | square];
  const met = ray & occupied;
  return met == 0 ? ray : ray ^ rays[(way << 6) | (<i32>ctz(met))];
}

// @ts-ignore: decorator
@inline function falling(way: i32, square: i32, occupied: u64): u64 {
  const ray = rays[(way << 6) | square];
  const met = ray & occupied;
  return met == 0 ? ray : ray ^ rays[(way << 6) | (63 - <i32>clz(met))];
}

// @ts-ignore: decorator
@inline export function straight(square: i32, occupied: u64): u64 {
  return (
    rising(0, square, occupied) |
    rising(1, square, occupied) |
    falling(2, square, occupied) |
    falling(3, square, occupied)
  );
}

// @ts-ignore: decorator
@inline export function diagonal(square: i32, occupied: u64): u64 {
  return (
    rising(4, square, occupied) |
    rising(5, square, occupied) |
    falling(6, square, occupied) |
    falling(7, square, occupied)
  );
}

// @ts-ignore: decorator
@inline export function kingMoves(square: i32): u64 {
  return kings[square];
}

// @ts-ignore: decorator
@inline export function pawnAttacks(side: i32, square: i32): u64 {
  return pawns[(side << 6) | square];
}

/** The squares strictly between two on a line; none where there are none. */
// @ts-ignore: decorator
@inline export function between(one: i32, other: i32): u64 {
  return inner[(one << 6) | other];
}

/** What a man that is no pawn attacks, with what is in its way. */
export function attacksOf(piece: i32, square: i32, occupied: u64): u64 {
  switch (piece) {
    case QUEEN:
      return straight(square, occupied) | diagonal(square, occupied);
    case ROOK:
      return straight(square, occupied);
    case BISHOP:
      return diagonal(square, occupied);
    case KNIGHT:
      return knights[square];
    default:
      return kings[square];
  }
}

const FILE_A: u64 = 0x0101010101010101;
const FILE_H: u64 = FILE_A << 7;

/** Squares beside those of a set, in any of eight directions. */
export function beside(set: u64): u64 {
  const sides = ((set & ~FILE_H) << 1) | ((set & ~FILE_A) >> 1);
  const row = set | sides;
  return sides | (row << 8) | (row >> 8);
}

/** A set with its files in the opposite order. */
export function withFilesTurned(set: u64): u64 {
  let found = ((set >> 1) & 0x5555555555555555) | ((set & 0x5555555555555555) << 1);
  found = ((found >> 2) & 0x3333333333333333) | ((found & 0x3333333333333333) << 2);
  return ((found >> 4) & 0x0f0f0f0f0f0f0f0f) | ((found & 0x0f0f0f0f0f0f0f0f) << 4);
}

/** A set with files and ranks exchanged. */
export function transposed(set: u64): u64 {
  let found = set;
  let moved = (found ^ (found >> 7)) & 0x00aa00aa00aa00aa;
  found ^= moved ^ (moved << 7);
  moved = (found ^ (found >> 14)) & 0x0000cccc0000cccc;
  found ^= moved ^ (moved << 14);
  moved = (found ^ (found >> 28)) & 0x00000000f0f0f0f0;
  return found ^ moved ^ (moved << 28);
}
