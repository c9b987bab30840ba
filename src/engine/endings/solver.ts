/**
 * Solves one slice of an ending by going backwards from its mates: all positions of some men whose pawns stand on fixed squares. Moves
 * that leave the slice (captures, pawn moves, promotions) lead to children, which have been solved before. Only one slice at a time.
 *
 * A position's value is a byte, from the view of the side to move: 0 drawn, 1 + n lost or won in n plies (odd: lost, even: won),
 * 255 not a position. How positions are numbered is said in src/core/endings/slice.ts.
 */
import {
  attacksOf,
  between,
  bit,
  diagonal,
  kingMoves,
  KNIGHT,
  pawnAttacks,
  QUEEN,
  ROOK,
  BISHOP,
  PAWN,
  straight,
} from './boards';

const MOST_MEN: i32 = 8;
const NONE: u8 = 255;
/** The count of moves of a position that can't be lost. */
const SAFE: u8 = 255;
const MOST_CODE: i32 = 254;

/** Men: the kings of white and black, then those that are free to move, then pawns. */
let free: i32 = 0;
let men: i32 = 0;
let isPaired: bool = true;
let size: u32 = 0;
const pieces = new StaticArray<i32>(MOST_MEN);
const sides = new StaticArray<i32>(MOST_MEN);
const squares = new StaticArray<i32>(MOST_MEN);
/** By side to move. */
const values = new StaticArray<usize>(2);
/** Half moves inside the slice that are not known to lose, in halves (see {@link spread}). */
const counts = new StaticArray<usize>(2);
/** The slowest loss outside it. */
const worst = new StaticArray<usize>(2);
let top: i32 = 0;

// ---- numbering

/** Kings without pawns: one pair stands for all that are the same but for turning and mirroring the board. */
const PAIRS: i32 = 462;
const pairFirst = new StaticArray<i32>(PAIRS);
const pairSecond = new StaticArray<i32>(PAIRS);
/** For two squares the pair, and above it by 16 bits how the board is turned for it; -1: not beside each other. */
const pairOf = new StaticArray<i32>(64 * 64);
/** Whether a pair stays as it is when the board is mirrored along the long diagonal. */
const isMirrored = new StaticArray<bool>(PAIRS);
const turned = new StaticArray<u8>(8 * 64);

function setUp(): void {
  for (let way = 0; way < 8; way++)
    for (let square = 0; square < 64; square++) {
      let at = square ^ (way & 1 ? 7 : 0) ^ (way & 2 ? 56 : 0);
      if (way & 4) at = ((at & 7) << 3) | (at >> 3);
      turned[(way << 6) | square] = <u8>at;
    }
  const known = new StaticArray<i32>(64 * 64);
  let count = 0;
  for (let first = 0; first < 64; first++)
    for (let second = 0; second < 64; second++) {
      known[(first << 6) | second] = -1;
      const file = first & 7;
      const rank = first >> 3;
      if (file > 3 || rank > file) continue;
      const isLong = rank == file;
      if (isLong && second >> 3 > (second & 7)) continue;
      if (first == second || kingMoves(first) & bit(second)) continue;
      pairFirst[count] = first;
      pairSecond[count] = second;
      isMirrored[count] = isLong && second >> 3 == (second & 7);
      known[(first << 6) | second] = count++;
    }
  for (let first = 0; first < 64; first++)
    for (let second = 0; second < 64; second++) {
      let found = -1;
      for (let way = 0; way < 8 && found < 0; way++) {
        const one = <i32>turned[(way << 6) | first];
        const other = <i32>turned[(way << 6) | second];
        const pair = known[(one << 6) | other];
        if (pair >= 0) found = (way << 16) | pair;
      }
      pairOf[(first << 6) | second] = found;
    }
}
setUp();

// ---- children

/** Numbers of a child: its values by side to move, what its squares are mixed with, its free men, whether it is paired, and its men. */
const CHILD: i32 = 5 + MOST_MEN;
const MOST_CHILDREN: i32 = 256;
const children = new StaticArray<u32>(MOST_CHILDREN * CHILD);
let childCount: i32 = 0;

/** Who is taken to win where a child's values are not there. */
let assumed: i32 = 0;

/** By kind of move and the men in it: which child it leads to; -1: to kings alone, which is drawn. */
const BY_CAPTURE: i32 = 0;
const BY_PUSH: i32 = 1;
const BY_LEAP: i32 = 2;
const BY_PROMOTION: i32 = 3;
const BY_PAWN_CAPTURE: i32 = 7;
const BY_PROMOTING_CAPTURE: i32 = 9;
const BY_PASSING: i32 = 13;
const KINDS: i32 = 14;
const ways = new StaticArray<i32>(KINDS * MOST_MEN * MOST_MEN);

// @ts-ignore: decorator
@inline function wayAt(kind: i32, mover: i32, other: i32): i32 {
  return (kind * MOST_MEN + mover) * MOST_MEN + other;
}

/** Behind all that stays, and behind what is reserved. */
let bottom: usize = 0;
let reserved: usize = 0;
const ALIGNED: usize = 15;
const PAGE_BITS: i32 = 16;

/** Lets go of all that was reserved. */
export function release(): void {
  if (bottom == 0) bottom = (heap.alloc(ALIGNED + 1) + ALIGNED) & ~ALIGNED;
  reserved = bottom;
}

/** Memory for so many bytes, which is not cleared, until it is let go of; -1: there is none. */
export function reserve(bytes: usize): usize {
  const at = reserved;
  const end = (at + bytes + ALIGNED) & ~ALIGNED;
  const there = <usize>memory.size() << PAGE_BITS;
  if (end > there) {
    const pages = <i32>((end - there + 0xffff) >> PAGE_BITS);
    if (memory.grow(pages) < 0) return -1;
  }
  reserved = end;
  return at;
}

/**
 * Begins a slice. @param winner who is taken to win in children without values
 * @param values0 where its values go with white to move, `size` bytes; the others likewise
 */
export function begin(
  freeMen: i32,
  pawnMen: i32,
  winner: i32,
  values0: usize,
  values1: usize,
  counts0: usize,
  counts1: usize,
  worst0: usize,
  worst1: usize,
): u32 {
  free = freeMen;
  men = 2 + freeMen + pawnMen;
  assumed = winner;
  isPaired = pawnMen == 0;
  size = <u32>(isPaired ? PAIRS : 4096) << (6 * free);
  values[0] = values0;
  values[1] = values1;
  counts[0] = counts0;
  counts[1] = counts1;
  worst[0] = worst0;
  worst[1] = worst1;
  pieces[0] = 0;
  pieces[1] = 0;
  sides[0] = 0;
  sides[1] = 1;
  childCount = 0;
  ways.fill(-1);
  top = 0;
  return size;
}

/** A man beside the kings. @param square of a pawn */
export function setMan(man: i32, piece: i32, side: i32, square: i32): void {
  pieces[man] = piece;
  sides[man] = side;
  squares[man] = square;
}

/**
 * A slice that moves lead to. @param values0 0 where its values are not known
 * @param mixed what squares are mixed with: 56 where its sides are the other way round, 7 where its files are
 * @returns its number; its men are told by {@link setChildMan}
 */
export function addChild(
  values0: usize,
  values1: usize,
  mixed: i32,
  freeMen: i32,
  isChildPaired: bool,
): i32 {
  if (childCount == MOST_CHILDREN) return -1;
  const at = childCount * CHILD;
  children[at] = <u32>values0;
  children[at + 1] = <u32>values1;
  children[at + 2] = mixed;
  children[at + 3] = freeMen;
  children[at + 4] = isChildPaired ? 1 : 0;
  return childCount++;
}

/** Which man here is a king or free man of a child. */
export function setChildMan(child: i32, place: i32, man: i32): void {
  children[child * CHILD + 5 + place] = man;
}

/** What moves of a kind lead to a child. */
export function setWay(kind: i32, mover: i32, other: i32, child: i32): void {
  ways[wayAt(kind, mover, other)] = child;
}

/** The value of the position on the board, in a child. @param toMove the side to move here */
function look(child: i32, toMove: i32): i32 {
  if (child < 0) return 0;
  const at = child * CHILD;
  if (children[at] == 0) return toMove == assumed ? 2 : 1;
  const mixed = <i32>children[at + 2];
  const count = <i32>children[at + 3];
  const first = squares[children[at + 5]] ^ mixed;
  const second = squares[children[at + 6]] ^ mixed;
  let index: u32;
  if (children[at + 4]) {
    const pair = pairOf[(first << 6) | second];
    const way = (pair >> 16) << 6;
    index = pair & 0xffff;
    for (let place = 0; place < count; place++)
      index = (index << 6) | turned[way | (squares[children[at + 7 + place]] ^ mixed)];
  } else {
    index = (first << 6) | second;
    for (let place = 0; place < count; place++)
      index = (index << 6) | (squares[children[at + 7 + place]] ^ mixed);
  }
  const side = toMove ^ (mixed >> 5 & 1);
  return load<u8>(<usize>children[at + side] + index);
}

// @ts-ignore: decorator
@inline function before(value: i32): i32 {
  return value == 0 ? 0 : value + 1;
}

/** The better of two values for whom they are. */
function better(one: i32, other: i32): i32 {
  const rank = (value: i32): i32 => (value == 0 ? 0 : value & 1 ? value - 512 : 512 - value);
  return rank(one) >= rank(other) ? one : other;
}

// ---- the moves of a position

let occupied: u64 = 0;
const occupiedBy = new StaticArray<u64>(2);
/** Of the side that was looked at: what its king must not enter, where its other men may go while it is in check, and each of them alone. */
let guarded: u64 = 0;
let allowed: u64 = 0;
const pinned = new StaticArray<u64>(MOST_MEN);

function place(): void {
  occupiedBy[0] = 0;
  occupiedBy[1] = 0;
  for (let man = 0; man < men; man++) occupiedBy[sides[man]] |= bit(squares[man]);
  occupied = occupiedBy[0] | occupiedBy[1];
}

// @ts-ignore: decorator
@inline function attacksBy(man: i32, occupied: u64): u64 {
  return pieces[man] == PAWN
    ? pawnAttacks(sides[man], squares[man])
    : attacksOf(pieces[man], squares[man], occupied);
}

/** Looks at what the other side does to one: its guarded squares, checks and pins. @param without a man that is not there; -1: none */
function analyse(side: i32, without: i32): void {
  const king = squares[side];
  guarded = 0;
  allowed = ~(<u64>0);
  const behind = occupied ^ bit(king);
  for (let man = 0; man < men; man++) pinned[man] = ~(<u64>0);
  for (let man = 0; man < men; man++) {
    if (sides[man] == side || man == without) continue;
    const square = squares[man];
    guarded |= attacksBy(man, behind);
    const piece = pieces[man];
    if (piece == PAWN) {
      if (pawnAttacks(side ^ 1, square) & bit(king)) allowed &= bit(square);
      continue;
    }
    if (piece == KNIGHT) {
      if (attacksOf(KNIGHT, square, 0) & bit(king)) allowed &= bit(square);
      continue;
    }
    let line: u64 = 0;
    if (piece == ROOK || piece == QUEEN) line |= straight(square, 0);
    if (piece == BISHOP || piece == QUEEN) line |= diagonal(square, 0);
    if (!(line & bit(king))) continue;
    const way = between(square, king);
    const met = way & occupied;
    if (met == 0) allowed &= way | bit(square);
    else if ((met & (met - 1)) == 0 && met & occupiedBy[side]) {
      for (let own = 2; own < men; own++)
        if (sides[own] == side && bit(squares[own]) == met) pinned[own] = way | bit(square);
    }
  }
}

// @ts-ignore: decorator
@inline function isChecked(side: i32): bool {
  return (guarded & bit(squares[side])) != 0;
}

/** Where a man may go; one that is not a pawn. */
function targetsOf(man: i32): u64 {
  const side = sides[man];
  if (man < 2) return kingMoves(squares[man]) & ~occupiedBy[side] & ~guarded;
  return (
    attacksOf(pieces[man], squares[man], occupied) & ~occupiedBy[side] & allowed & pinned[man]
  );
}

function manAt(square: i32, side: i32): i32 {
  for (let man = 0; man < men; man++)
    if (squares[man] == square && sides[man] == side) return man;
  return -1;
}

/** Where a pawn may go without capturing, one step and two. */
function stepsOf(man: i32): u64 {
  const square = squares[man];
  const up = sides[man] == 0 ? 8 : -8;
  const one = bit(square + up) & ~occupied;
  let steps = one;
  const isHome = sides[man] == 0 ? square < 16 : square >= 48;
  if (one != 0 && isHome) steps |= bit(square + 2 * up) & ~occupied;
  return steps & allowed & pinned[man];
}

function capturesOf(man: i32): u64 {
  const side = sides[man];
  return pawnAttacks(side, squares[man]) & occupiedBy[side ^ 1] & allowed & pinned[man];
}

/** Whether a side has any move but captures in passing. */
function canMove(side: i32): bool {
  analyse(side, -1);
  for (let man = 0; man < men; man++) {
    if (sides[man] != side) continue;
    const targets = pieces[man] == PAWN ? stepsOf(man) | capturesOf(man) : targetsOf(man);
    if (targets != 0) return true;
  }
  return false;
}

// what the moves out of the slice have shown so far
let won: i32 = 0;
let lost: i32 = 0;
let isSafe: bool = false;

/** Takes note of a move whose value, for who makes it, is known. */
function note(value: i32): void {
  if (value == 0) isSafe = true;
  else if (value & 1) lost = max(lost, value);
  else won = won == 0 ? value : min(won, value);
}

function note4(kind: i32, man: i32, other: i32, side: i32): void {
  for (let rank = 0; rank < 4; rank++)
    note(before(look(ways[wayAt(kind + rank, man, other)], side ^ 1)));
}

/** A pawn's two steps: the other side may capture it in passing. */
function leap(man: i32, side: i32): void {
  const from = squares[man];
  const up = side == 0 ? 8 : -8;
  const there = from + 2 * up;
  squares[man] = there;
  let value = look(ways[wayAt(BY_LEAP, man, 0)], side ^ 1);
  place();
  // a mate or stalemate that only a capture in passing prevents is none
  let isForced = value <= 1 && !canMove(side ^ 1);
  for (let other = 2; other < men; other++) {
    if (pieces[other] != PAWN || sides[other] == side) continue;
    const at = squares[other];
    if (at >> 3 != there >> 3 || abs((at & 7) - (there & 7)) != 1) continue;
    // it stands behind where the other was
    squares[other] = from + up;
    place();
    occupiedBy[side] ^= bit(there);
    occupied ^= bit(there);
    analyse(side ^ 1, man);
    if (!isChecked(side ^ 1)) {
      const taken = before(look(ways[wayAt(BY_PASSING, other, man)], side));
      value = isForced ? taken : better(value, taken);
      isForced = false;
    }
    squares[other] = at;
  }
  squares[man] = from;
  place();
  analyse(side, -1);
  note(before(value));
}

function pawnMoves(man: i32, side: i32): void {
  const from = squares[man];
  const last = side == 0 ? 7 : 0;
  let steps = stepsOf(man);
  while (steps != 0) {
    const to = <i32>ctz(steps);
    steps &= steps - 1;
    if (abs(to - from) == 16) {
      leap(man, side);
      continue;
    }
    squares[man] = to;
    if (to >> 3 == last) note4(BY_PROMOTION, man, 0, side);
    else note(before(look(ways[wayAt(BY_PUSH, man, 0)], side ^ 1)));
    squares[man] = from;
  }
  let captures = capturesOf(man);
  while (captures != 0) {
    const to = <i32>ctz(captures);
    captures &= captures - 1;
    const other = manAt(to, side ^ 1);
    const isRight = (to & 7) > (from & 7) ? 1 : 0;
    squares[man] = to;
    if (to >> 3 == last) note4(BY_PROMOTING_CAPTURE, man, other, side);
    else note(before(look(ways[wayAt(BY_PAWN_CAPTURE + isRight, man, other)], side ^ 1)));
    squares[man] = from;
  }
}

function setValue(side: i32, index: u32, value: i32): void {
  if (value > top) top = value;
  store<u8>(values[side] + index, <u8>value);
}

/** What is known of a position by itself, and by the moves that leave the slice. */
function judge(side: i32, index: u32): void {
  store<u8>(counts[side] + index, SAFE);
  place();
  const king = squares[side];
  const other = squares[side ^ 1];
  if (<i32>popcnt(occupied) != men || kingMoves(king) & bit(other)) {
    store<u8>(values[side] + index, NONE);
    return;
  }
  for (let man = 2; man < men; man++)
    if (sides[man] == side && attacksBy(man, occupied) & bit(other)) {
      store<u8>(values[side] + index, NONE);
      return;
    }
  store<u8>(values[side] + index, 0);
  analyse(side, -1);
  const isInCheck = isChecked(side);
  won = 0;
  lost = 0;
  isSafe = false;
  let quiet = 0;
  let leaves = false;
  for (let man = 0; man < men; man++) {
    if (sides[man] != side) continue;
    if (pieces[man] == PAWN) {
      pawnMoves(man, side);
      continue;
    }
    const targets = targetsOf(man);
    quiet += <i32>popcnt(targets & ~occupied);
    let captures = targets & occupied;
    const from = squares[man];
    while (captures != 0) {
      const to = <i32>ctz(captures);
      captures &= captures - 1;
      const taken = manAt(to, side ^ 1);
      squares[man] = to;
      note(before(look(ways[wayAt(BY_CAPTURE, 0, taken)], side ^ 1)));
      squares[man] = from;
    }
  }
  leaves = won != 0 || lost != 0 || isSafe;
  if (won != 0) setValue(side, index, won);
  else if (isSafe) return;
  else if (quiet == 0) {
    if (leaves) setValue(side, index, lost);
    else if (isInCheck) setValue(side, index, 1);
  } else {
    store<u8>(counts[side] + index, <u8>(2 * quiet));
    store<u8>(worst[side] + index, <u8>lost);
  }
}

/** Puts the men where a number says. */
function decode(index: u32): void {
  let rest = index;
  for (let man = free + 1; man >= 2; man--) {
    squares[man] = rest & 63;
    rest >>= 6;
  }
  if (isPaired) {
    squares[0] = pairFirst[rest];
    squares[1] = pairSecond[rest];
  } else {
    squares[0] = rest >> 6;
    squares[1] = rest & 63;
  }
}

/** A position from which a move leads to one with a value: takes note of it. @param share of the move, in halves */
function touch(side: i32, index: u32, code: i32, share: i32): void {
  const value = <i32>load<u8>(values[side] + index);
  if (code & 1) {
    // the move wins
    if (value == 0 || ((value & 1) == 0 && value > code + 1)) setValue(side, index, code + 1);
    return;
  }
  if (value != 0) return;
  const count = load<u8>(counts[side] + index);
  if (count == SAFE) return;
  const left = <i32>count - share;
  store<u8>(counts[side] + index, <u8>left);
  if (left == 0) setValue(side, index, max(code + 1, <i32>load<u8>(worst[side] + index)));
}

/**
 * Tells all positions from which a move inside the slice leads to this one what it is worth. Where mirroring along the long diagonal changes
 * nothing for the kings, the mirrored position has a number of its own: its king's moves come up here once more from there, so that each
 * is half a move, and where they come from is told both numbers.
 */
function spread(side: i32, index: u32, code: i32): void {
  decode(index);
  place();
  const mover = side ^ 1;
  for (let man = 2; man < 2 + free; man++) {
    if (sides[man] != mover) continue;
    const shift = 6 * (free + 1 - man);
    const base = index & ~(<u32>63 << shift);
    let from = attacksOf(pieces[man], squares[man], occupied) & ~occupied;
    while (from != 0) {
      touch(mover, base | (<u32>ctz(from) << shift), code, 2);
      from &= from - 1;
    }
  }
  const shift = 6 * free;
  let from = kingMoves(squares[mover]) & ~occupied;
  if (!isPaired) {
    const place = shift + (mover == 0 ? 6 : 0);
    const base = index & ~(<u32>63 << place);
    while (from != 0) {
      touch(mover, base | (<u32>ctz(from) << place), code, 2);
      from &= from - 1;
    }
    return;
  }
  const share = isMirrored[index >> shift] ? 1 : 2;
  while (from != 0) {
    const square = <i32>ctz(from);
    from &= from - 1;
    const pair =
      mover == 0 ? pairOf[(square << 6) | squares[1]] : pairOf[(squares[0] << 6) | square];
    if (pair < 0) continue;
    const way = (pair >> 16) << 6;
    let one: u32 = pair & 0xffff;
    const both = isMirrored[one];
    let mirrored = one;
    for (let man = 2; man < 2 + free; man++) {
      const at = <u32>turned[way | squares[man]];
      one = (one << 6) | at;
      mirrored = (mirrored << 6) | ((at & 7) << 3) | (at >> 3);
    }
    touch(mover, one, code, share);
    if (both) touch(mover, mirrored, code, share);
  }
}

/** Looks at so many positions from a number on, with each side to move; the first pass. */
export function prepare(from: u32, to: u32): void {
  for (let index = from; index < to; index++) {
    decode(index);
    judge(0, index);
    judge(1, index);
  }
}

/** Spreads all positions that have a value; true while there may be slower ones. The second pass, value by value from 1 on. */
export function layer(code: i32): bool {
  const wanted = i8x16.splat(<i8>code);
  for (let side = 0; side < 2; side++) {
    const start = values[side];
    for (let at: u32 = 0; at < size; at += 16) {
      let found = i8x16.bitmask(i8x16.eq(v128.load(start + at), wanted));
      while (found != 0) {
        spread(side, at + ctz(found), code);
        found &= found - 1;
      }
    }
  }
  return code < top;
}

/** The slowest value there is; over {@link MOST_CODE} it could not be kept. */
export function slowest(): i32 {
  return top;
}
