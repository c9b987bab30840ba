/**
 * Attacks of rooks and bishops, line by line: the six inner squares of a line, gathered into six bits, give the place
 * of what is reached along it. The outer two don't matter: nothing stands behind them.
 */
const RANK: i32 = 0;
const FILE: i32 = 1 << 12;
const RISING: i32 = 2 << 12;
const FALLING: i32 = 3 << 12;

/** By line, square and six bits. */
const ATTACKS = new StaticArray<u64>(4 << 12);

/** Squares of the rising and the falling line through a square. */
const RISING_LINES = new StaticArray<u64>(64);
const FALLING_LINES = new StaticArray<u64>(64);

const FILE_A: u64 = 0x0101010101010101;
/** Brings the squares 2–7 of the first file side by side into the highest six bits. */
const FILE_FACTOR: u64 = 0x0080402010080400;

/** Squares from one on in a direction, up to and with the first of `all`. */
function walk(square: i32, file: i32, rank: i32, all: u64): u64 {
  let found: u64 = 0;
  let f = (square & 7) + file;
  let r = (square >> 3) + rank;
  for (; f >= 0 && f < 8 && r >= 0 && r < 8; f += file, r += rank) {
    const here = (<u64>1) << (<u64>(f | (r << 3)));
    found |= here;
    if ((all & here) != 0) break;
  }
  return found;
}

function fillLine(square: i32, line: i32, file: i32, rank: i32): void {
  const squares = walk(square, file, rank, 0) | walk(square, -file, -rank, 0);
  if (line == RISING) RISING_LINES[square] = squares;
  if (line == FALLING) FALLING_LINES[square] = squares;
  let some: u64 = 0;
  do {
    const attacks = walk(square, file, rank, some) | walk(square, -file, -rank, some);
    ATTACKS[placeOf(line, square, some)] = attacks;
    // whether the square itself is taken makes no difference
    ATTACKS[placeOf(line, square, some | ((<u64>1) << (<u64>square)))] = attacks;
    some = (some - squares) & squares;
  } while (some != 0);
}

function placeOf(line: i32, square: i32, all: u64): i32 {
  if (line == RANK) return rankPlace(square, all);
  return line == FILE ? filePlace(square, all) : slantedPlace(square, all, line);
}

export function initSliders(): void {
  for (let square = 0; square < 64; square++) {
    fillLine(square, RANK, 1, 0);
    fillLine(square, FILE, 0, 1);
    fillLine(square, RISING, 1, 1);
    fillLine(square, FALLING, 1, -1);
  }
}

// @ts-ignore: decorator
@inline function rankPlace(square: i32, all: u64): i32 {
  return RANK | (square << 6) | (<i32>(all >> (<u64>((square & 56) + 1))) & 63);
}

// @ts-ignore: decorator
@inline function filePlace(square: i32, all: u64): i32 {
  return FILE | (square << 6) | <i32>((((all >> (<u64>(square & 7))) & FILE_A) * FILE_FACTOR) >> 58);
}

/** A slanted line has one square on each file: added up, they lie side by side. */
// @ts-ignore: decorator
@inline function slantedPlace(square: i32, all: u64, line: i32): i32 {
  const squares = line == RISING ? RISING_LINES[square] : FALLING_LINES[square];
  return line | (square << 6) | (<i32>(((all & squares) * FILE_A) >> 57) & 63);
}

// @ts-ignore: decorator
@inline export function rookAttacks(square: i32, all: u64): u64 {
  return ATTACKS[rankPlace(square, all)] | ATTACKS[filePlace(square, all)];
}

// @ts-ignore: decorator
@inline export function bishopAttacks(square: i32, all: u64): u64 {
  return ATTACKS[slantedPlace(square, all, RISING)] | ATTACKS[slantedPlace(square, all, FALLING)];
}
