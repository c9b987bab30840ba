/**
 * Solves one slice of an ending by going backwards from its mates: all positions of some men whose pawns stand on fixed squares. Moves
 * that leave the slice (captures, pawn moves, promotions) lead to children, which have been solved before. Only one slice at a time.
 *
 * A position's value is a byte, from the view of the side to move: 0 drawn, 1 + n lost or won in n plies (odd: lost, even: won),
 * 255 not a position. How positions are numbered is said in src/core/endings/slice.ts.
 *
 * While a slice is being solved, positions that differ in the square of black's king alone stand together: a row. What is known of a
 * row is kept in sets of that king's squares, 64 bits each, so that a move of any other man is made for all of them at a time. Without
 * pawns, white's king stands on a1–d1–d4, and the board is turned where it leaves them.
 */
import {
  attacksOf,
  beside,
  between,
  bit,
  kingMoves,
  KNIGHT,
  PAWN,
  pawnAttacks,
  transposed,
  withFilesTurned,
} from './boards';

const MOST_MEN: i32 = 8;
const NONE: u8 = 255;

/** Men: the kings of white and black, then those that are free to move, then pawns. */
let free: i32 = 0;
let men: i32 = 0;
let isPaired: bool = true;
let rows: u32 = 0;
const pieces = new StaticArray<i32>(MOST_MEN);
const sides = new StaticArray<i32>(MOST_MEN);
const squares = new StaticArray<i32>(MOST_MEN);

// what is kept by side to move; values and `worst` a byte a position, by row and black king; the others a set a row

const values = new StaticArray<usize>(2);
/** Of positions that may be lost: the slowest loss outside the slice; 0: there is none. In the end, the values by their numbers. */
const worst = new StaticArray<usize>(2);
/** Positions that are not known to be won, as far as layers have come. */
const unwon = new StaticArray<usize>(2);
/** Positions whose value may become a win, or a sooner one. */
const winnable = new StaticArray<usize>(2);
/** Positions that may be lost: no way out holds them. */
const losable = new StaticArray<usize>(2);
/** By row: of which sides to move (1, 2) positions have to be looked at again. */
let stale: usize = 0;
let top: i32 = 0;

// @ts-ignore: decorator
@inline function setAt(sets: StaticArray<usize>, side: i32, row: u32): usize {
  return unchecked(sets[side]) + (<usize>row << 3);
}

// ---- numbering

/** Kings without pawns: one pair stands for all that are the same but for turning and mirroring the board. */
const PAIRS: i32 = 462;
const pairFirst = new StaticArray<i32>(PAIRS);
const pairSecond = new StaticArray<i32>(PAIRS);
/** For two squares the pair, and above it by 16 bits how the board is turned for it; -1: beside each other. */
const pairOf = new StaticArray<i32>(64 * 64);
/** Squares turned in eight ways: files mirrored (1), ranks (2), then both exchanged (4). */
const turned = new StaticArray<u8>(8 * 64);
/** Squares of white's king without pawns, a1–d1–d4. */
const CORNER: i32 = 10;
const cornerSquare = new StaticArray<i32>(CORNER);
/** By square: its number among them; -1: it is not one. */
const cornerNumber = new StaticArray<i32>(64);
/** By square: the first way to turn it to one of them. */
const wayToCorner = new StaticArray<i32>(64);

function setUp(): void {
  for (let way = 0; way < 8; way++)
    for (let square = 0; square < 64; square++) {
      let at = square ^ (way & 1 ? 7 : 0) ^ (way & 2 ? 56 : 0);
      if (way & 4) at = ((at & 7) << 3) | (at >> 3);
      turned[(way << 6) | square] = <u8>at;
    }
  let corner = 0;
  for (let square = 0; square < 64; square++) {
    const isCorner = (square & 7) <= 3 && square >> 3 <= (square & 7);
    cornerNumber[square] = isCorner ? corner : -1;
    if (isCorner) cornerSquare[corner++] = square;
  }
  for (let square = 0; square < 64; square++)
    for (let way = 7; way >= 0; way--)
      if (cornerNumber[turned[(way << 6) | square]] >= 0) wayToCorner[square] = way;
  const known = new StaticArray<i32>(64 * 64);
  let count = 0;
  for (let first = 0; first < 64; first++)
    for (let second = 0; second < 64; second++) {
      known[(first << 6) | second] = -1;
      if (cornerNumber[first] < 0) continue;
      if (isDiagonal(first) && second >> 3 > (second & 7)) continue;
      if (first == second || kingMoves(first) & bit(second)) continue;
      pairFirst[count] = first;
      pairSecond[count] = second;
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

// @ts-ignore: decorator
@inline function isDiagonal(square: i32): bool {
  return square >> 3 == (square & 7);
}

/** A set turned as squares are. */
function turnedSet(way: i32, set: u64): u64 {
  let found = set;
  if (way & 1) found = withFilesTurned(found);
  if (way & 2) found = bswap<u64>(found);
  if (way & 4) found = transposed(found);
  return found;
}

/** The set that {@link turnedSet} makes into this one. */
function turnedBack(way: i32, set: u64): u64 {
  let found = set;
  if (way & 4) found = transposed(found);
  if (way & 2) found = bswap<u64>(found);
  if (way & 1) found = withFilesTurned(found);
  return found;
}

/** Puts all men but black's king where the number of a row says. */
function decode(row: u32): void {
  let rest = row;
  for (let man = free + 1; man >= 2; man--) {
    squares[man] = rest & 63;
    rest >>= 6;
  }
  squares[0] = isPaired ? cornerSquare[rest] : rest;
}

/** The row in which a man that is free to move stands elsewhere. */
// @ts-ignore: decorator
@inline function rowWith(row: u32, man: i32, square: i32): u32 {
  const shift = 6 * (free + 1 - man);
  return (row & ~(<u32>63 << shift)) | (<u32>square << shift);
}

/** The row in which white's king stands elsewhere, with the board turned as that asks for. */
function rowWithKing(row: u32, square: i32, way: i32): u32 {
  const shift = 6 * free;
  if (!isPaired) return (row & ((<u32>1 << shift) - 1)) | (<u32>square << shift);
  let found: u32 = cornerNumber[turned[(way << 6) | square]];
  for (let man = 2; man < 2 + free; man++)
    found = (found << 6) | <u32>turned[(way << 6) | squares[man]];
  return found;
}

// ---- ways out of the slice

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
 * @param values0 where its values are worked out with white to move, 64 bytes a row; the others likewise; `worst` has them in the end
 * @param sets six sets a row, and a byte
 * @param rowCount how many rows it has
 */
export function begin(
  freeMen: i32,
  pawnMen: i32,
  winner: i32,
  values0: usize,
  values1: usize,
  worst0: usize,
  worst1: usize,
  sets: usize,
  rowCount: u32,
): void {
  free = freeMen;
  men = 2 + freeMen + pawnMen;
  assumed = winner;
  isPaired = pawnMen == 0;
  rows = rowCount;
  values[0] = values0;
  values[1] = values1;
  worst[0] = worst0;
  worst[1] = worst1;
  let at = sets;
  for (let side = 0; side < 2; side++) {
    const bytes = <usize>rows << 3;
    unwon[side] = at;
    winnable[side] = at + bytes;
    losable[side] = at + 2 * bytes;
    at += 3 * bytes;
  }
  stale = at;
  pieces[0] = 0;
  pieces[1] = 0;
  sides[0] = 0;
  sides[1] = 1;
  childCount = 0;
  ways.fill(-1);
  top = 0;
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

// ---- a row: where black's king may stand, and whose king is attacked

/** All men but the kings, and but one that is gone. */
let occupied: u64 = 0;

/** Takes note of where men stand; false where two stand on one square. @param gone a man that was captured; -1: none */
function occupy(gone: i32): bool {
  occupied = 0;
  let isFree = true;
  for (let man = 2; man < men; man++) {
    if (man == gone) continue;
    const own = bit(squares[man]);
    if (occupied & own) isFree = false;
    occupied |= own;
  }
  return isFree && (occupied & bit(squares[0])) == 0;
}

// @ts-ignore: decorator
@inline function attacksBy(man: i32, met: u64): u64 {
  return pieces[man] == PAWN
    ? pawnAttacks(sides[man], squares[man])
    : attacksOf(pieces[man], squares[man], met);
}

/** Squares of black's king for which the king of a side is attacked by men other than kings. */
function attacked(side: i32, gone: i32): u64 {
  const king = squares[0];
  let found: u64 = 0;
  if (side == 1) {
    const met = occupied | bit(king);
    for (let man = 2; man < men; man++)
      if (sides[man] == 0 && man != gone) found |= attacksBy(man, met);
    return found;
  }
  for (let man = 2; man < men; man++) {
    if (sides[man] == 0 || man == gone || !(attacksBy(man, occupied) & bit(king))) continue;
    // black's own king may stand between
    found |= ~between(squares[man], king);
  }
  return found;
}

/** Squares on which black's king may stand when a side has moved. */
function legalAfter(mover: i32, gone: i32): u64 {
  if (!occupy(gone)) return 0;
  const king = squares[0];
  return ~(occupied | bit(king) | kingMoves(king)) & ~attacked(mover, gone);
}

/** Black's kings that are not in the way of a man of a side. White's never meet one: it would be attacked with white to move. */
// @ts-ignore: decorator
@inline function clear(side: i32, from: i32, to: i32): u64 {
  return side == 1 ? ~between(from, to) : ~(<u64>0);
}

// ---- moves that leave the slice

// what they have shown so far of a row, as sets of black's king: the soonest wins and slowest losses a byte each
let won: u64 = 0;
let lost: u64 = 0;
let safe: u64 = 0;
/** Of those, which are won or lost in as few plies as can be, by moves whose values are not there. */
let wonSoon: u64 = 0;
let lostSoon: u64 = 0;
const SOONEST_WIN: i32 = 2;
const SOONEST_LOSS: i32 = 3;
const wonIn = new StaticArray<u8>(64);
const lostIn = new StaticArray<u8>(64);

// @ts-ignore: decorator
@inline function before(value: i32): i32 {
  return value == 0 ? 0 : value + 1;
}

/** The better of two values for whom they are. */
function better(one: i32, other: i32): i32 {
  const rank = (value: i32): i32 => (value == 0 ? 0 : value & 1 ? value - 512 : 512 - value);
  return rank(one) >= rank(other) ? one : other;
}

/** Takes note of a move whose value, for who makes it, is known, with black's king on a square. */
function note(square: i32, value: i32): void {
  const own = bit(square);
  if (value == 0) safe |= own;
  else if (value & 1) {
    lost |= own;
    lostIn[square] = <u8>max(<i32>lostIn[square], value);
  } else {
    won |= own;
    wonIn[square] = <u8>min(<i32>wonIn[square], value);
  }
}

/** The same for some squares and a move that is taken to win or lose. */
function noteAll(from: u64, value: i32): void {
  if (value == SOONEST_WIN) {
    wonSoon |= from;
    won |= from;
  } else {
    lostSoon |= from;
    lost |= from;
  }
}

// @ts-ignore: decorator
@inline function winIn(square: i32): i32 {
  return wonSoon & bit(square) ? SOONEST_WIN : wonIn[square];
}

// @ts-ignore: decorator
@inline function lossIn(square: i32): i32 {
  return max(lostSoon & bit(square) ? SOONEST_LOSS : 0, <i32>lostIn[square]);
}

/** The number of a position in a child, with black's king on a square. */
function indexIn(child: i32, square: i32): u32 {
  squares[1] = square;
  const at = child * CHILD;
  const mixed = <i32>children[at + 2];
  const count = <i32>children[at + 3];
  const first = squares[children[at + 5]] ^ mixed;
  const second = squares[children[at + 6]] ^ mixed;
  let index: u32 = (first << 6) | second;
  let way = 0;
  if (children[at + 4]) {
    const pair = pairOf[index];
    way = pair >> 16;
    index = pair & 0xffff;
  }
  for (let place = 0; place < count; place++)
    index =
      (index << 6) | <u32>turned[(way << 6) | (squares[children[at + 7 + place]] ^ mixed)];
  return index;
}

/** Where a child's values lie, for the side to move there. */
// @ts-ignore: decorator
@inline function valuesOf(child: i32, toMove: i32): usize {
  const at = child * CHILD;
  return children[at + (toMove ^ ((<i32>children[at + 2] >> 5) & 1))];
}

/** What a position is taken for whose child's values are not there. */
// @ts-ignore: decorator
@inline function assumedFor(toMove: i32): i32 {
  return toMove == assumed ? 2 : 1;
}

/** The value of a position in a child, for the side to move there, with black's king on a square. */
function look(child: i32, toMove: i32, square: i32): i32 {
  if (child < 0) return 0;
  const at = valuesOf(child, toMove);
  return at == 0 ? assumedFor(toMove) : load<u8>(at + indexIn(child, square));
}

/** Takes note of a move out of the slice. @param legal black's kings for which it can be made @param side who makes it */
function tell(child: i32, side: i32, legal: u64): void {
  if (child < 0) {
    safe |= legal;
    return;
  }
  const at = valuesOf(child, side ^ 1);
  if (at == 0) {
    noteAll(legal, before(assumedFor(side ^ 1)));
    return;
  }
  const own = child * CHILD;
  if (children[own + 4]) {
    for (let left = legal; left != 0; left &= left - 1) {
      const square = <i32>ctz(left);
      note(square, before(load<u8>(at + indexIn(child, square))));
    }
    return;
  }
  // what squares are mixed with is in the number of the first already
  const base = indexIn(child, 0);
  const shift = 6 * (children[own + 3] + (children[own + 5] == 1 ? 1 : 0));
  for (let left = legal; left != 0; left &= left - 1) {
    const square = <u32>ctz(left);
    note(square, before(load<u8>(at + (base ^ (square << shift)))));
  }
}

/** The first kind of four, by what a pawn becomes. */
function tell4(kind: i32, man: i32, other: i32, side: i32, legal: u64): void {
  if (legal == 0) return;
  for (let rank = 0; rank < 4; rank++) tell(ways[wayAt(kind + rank, man, other)], side, legal);
}

const MOST_PASSING: i32 = 2;
const passing = new StaticArray<u64>(MOST_PASSING);
const passingMan = new StaticArray<i32>(MOST_PASSING);

/** A pawn's two steps: the other side may capture it in passing. */
function leap(man: i32, side: i32, legal: u64): void {
  if (legal == 0) return;
  const there = squares[man];
  const between = there - (side == 0 ? 8 : -8);
  const child = ways[wayAt(BY_LEAP, man, 0)];
  let count = 0;
  for (let other = 2; other < men; other++) {
    if (pieces[other] != PAWN || sides[other] == side) continue;
    const at = squares[other];
    if (at >> 3 != there >> 3 || abs((at & 7) - (there & 7)) != 1) continue;
    squares[other] = between;
    passing[count] = legalAfter(side ^ 1, man);
    passingMan[count++] = other;
    squares[other] = at;
  }
  if (count == 0) {
    tell(child, side, legal);
    return;
  }
  // a mate or stalemate that only a capture in passing prevents is none
  const stuck = ~movable(side ^ 1);
  let left = legal;
  while (left != 0) {
    const square = <i32>ctz(left);
    left &= left - 1;
    const own = bit(square);
    let value = look(child, side ^ 1, square);
    let isForced = value <= 1 && (stuck & own) != 0;
    for (let one = 0; one < count; one++) {
      if (!(passing[one] & own)) continue;
      const other = passingMan[one];
      const at = squares[other];
      squares[other] = between;
      const taken = before(look(ways[wayAt(BY_PASSING, other, man)], side, square));
      squares[other] = at;
      value = isForced ? taken : better(value, taken);
      isForced = false;
    }
    note(square, before(value));
  }
}

/** Black's kings for which a side can move at all, captures in passing left out. */
function movable(side: i32): u64 {
  let found = leave(side, ~(<u64>0), false);
  occupy(-1);
  const taken = occupied | bit(squares[0]);
  if (side == 1) found |= beside(legalAfter(1, -1));
  for (let man = side == 0 ? 0 : 2; man < men; man++) {
    if (sides[man] != side || pieces[man] == PAWN || man == 1) continue;
    const from = squares[man];
    let targets = (man == 0 ? kingMoves(from) : attacksOf(pieces[man], from, taken)) & ~taken;
    while (targets != 0) {
      const to = <i32>ctz(targets);
      targets &= targets - 1;
      squares[man] = to;
      found |= legalAfter(side, -1) & clear(side, from, to);
    }
    squares[man] = from;
  }
  return found;
}

/**
 * Goes through the moves of a side that leave the slice. @param from black's kings for which they are asked
 * @param isTold whether what they lead to is taken note of
 * @returns those of them for which there is one
 */
function leave(side: i32, from: u64, isTold: bool): u64 {
  let found: u64 = 0;
  occupy(-1);
  const met = occupied | bit(squares[0]);
  for (let other = 2; other < men; other++) {
    if (sides[other] == side) continue;
    const to = squares[other];
    const child = ways[wayAt(BY_CAPTURE, 0, other)];
    if (side == 1) {
      if (legalAfter(1, other) & bit(to)) {
        const legal = kingMoves(to) & from;
        found |= legal;
        if (isTold) {
          const value = before(look(child, 0, to));
          for (let left = legal; left != 0; left &= left - 1) note(<i32>ctz(left), value);
        }
      }
    } else if (kingMoves(squares[0]) & bit(to)) {
      const king = squares[0];
      squares[0] = to;
      const legal = legalAfter(0, other) & from;
      found |= legal;
      if (isTold) tell(child, 0, legal);
      squares[0] = king;
    }
    for (let man = 2; man < men; man++) {
      if (sides[man] != side) continue;
      const at = squares[man];
      if (!(attacksBy(man, met) & bit(to))) continue;
      squares[man] = to;
      const legal = legalAfter(side, other) & from & clear(side, at, to);
      found |= legal;
      if (isTold) {
        if (pieces[man] != PAWN) tell(child, side, legal);
        else if (to >> 3 == (side == 0 ? 7 : 0)) tell4(BY_PROMOTING_CAPTURE, man, other, side, legal);
        else
          tell(ways[wayAt(BY_PAWN_CAPTURE + ((to & 7) > (at & 7) ? 1 : 0), man, other)], side, legal);
      }
      squares[man] = at;
    }
  }
  for (let man = 2 + free; man < men; man++) {
    if (sides[man] != side) continue;
    const at = squares[man];
    const up = side == 0 ? 8 : -8;
    const one = at + up;
    if (met & bit(one)) continue;
    squares[man] = one;
    const legal = legalAfter(side, -1) & from;
    found |= legal;
    if (isTold) {
      if (one >> 3 == (side == 0 ? 7 : 0)) tell4(BY_PROMOTION, man, 0, side, legal);
      else tell(ways[wayAt(BY_PUSH, man, 0)], side, legal);
    }
    const two = one + up;
    const isHome = side == 0 ? at < 16 : at >= 48;
    if (isHome && !(met & bit(two))) {
      squares[man] = two;
      const legal = legalAfter(side, -1) & from & ~bit(one);
      found |= legal;
      if (isTold) leap(man, side, legal);
    }
    squares[man] = at;
  }
  return found;
}

// ---- moves inside the slice

/** Black's kings for which a side that moves has a move to what is not known to be won for the other. @param enough it may stop where all of these are found */
function escapes(side: i32, row: u32, enough: u64): u64 {
  const other = side ^ 1;
  let found: u64 = 0;
  if (side == 1) {
    found = beside(load<u64>(setAt(unwon, 0, row)));
    if ((enough & ~found) == 0) return found;
  }
  occupy(-1);
  const king = squares[0];
  const met = occupied | bit(king);
  for (let man = 2; man < 2 + free; man++) {
    if (sides[man] != side) continue;
    const from = squares[man];
    let targets = attacksOf(pieces[man], from, met) & ~met;
    while (targets != 0) {
      const to = <i32>ctz(targets);
      targets &= targets - 1;
      found |= load<u64>(setAt(unwon, other, rowWith(row, man, to))) & clear(side, from, to);
      if ((enough & ~found) == 0) return found;
    }
  }
  if (side == 1) return found;
  let targets = kingMoves(king) & ~occupied;
  while (targets != 0) {
    const to = <i32>ctz(targets);
    targets &= targets - 1;
    const way = isPaired ? wayToCorner[to] : 0;
    found |= turnedBack(way, load<u64>(setAt(unwon, 1, rowWithKing(row, to, way))));
  }
  return found;
}

/** Rows beside one by a side's move, but for those of black's king; how black's king is turned there, and which of its squares the move is possible for. */
const MOST_LINKS: i32 = 128;
const linkRow = new StaticArray<u32>(MOST_LINKS);
const linkWay = new StaticArray<i32>(MOST_LINKS);
const linkClear = new StaticArray<u64>(MOST_LINKS);

function linksOf(side: i32, row: u32): i32 {
  occupy(-1);
  const king = squares[0];
  const met = occupied | bit(king);
  let count = 0;
  for (let man = 2; man < 2 + free; man++) {
    if (sides[man] != side) continue;
    const from = squares[man];
    let targets = attacksOf(pieces[man], from, met) & ~met;
    while (targets != 0) {
      const to = <i32>ctz(targets);
      targets &= targets - 1;
      linkRow[count] = rowWith(row, man, to);
      linkWay[count] = 0;
      linkClear[count++] = clear(side, from, to);
    }
  }
  if (side == 1) return count;
  let targets = kingMoves(king) & ~occupied;
  while (targets != 0) {
    const to = <i32>ctz(targets);
    targets &= targets - 1;
    const way = isPaired ? wayToCorner[to] : 0;
    linkRow[count] = rowWithKing(row, to, way);
    linkWay[count] = way;
    linkClear[count++] = ~(<u64>0);
    // what stands on the long diagonal has a mirror image of its own
    if (!isPaired || !isDiagonal(turned[(way << 6) | to])) continue;
    linkRow[count] = rowWithKing(row, to, way ^ 4);
    linkWay[count] = way ^ 4;
    linkClear[count++] = ~(<u64>0);
  }
  return count;
}

function setValue(side: i32, row: u32, square: i32, value: i32): void {
  if (value > top) top = value;
  store<u8>(values[side] + ((<usize>row << 6) | square), <u8>value);
}

/** Positions of a row are won in so many plies. */
function win(side: i32, row: u32, from: u64, value: i32): void {
  const at = setAt(winnable, side, row);
  const fresh = from & load<u64>(at);
  if (fresh == 0) return;
  store<u64>(at, load<u64>(at) & ~fresh);
  const losableAt = setAt(losable, side, row);
  store<u64>(losableAt, load<u64>(losableAt) & ~fresh);
  for (let left = fresh; left != 0; left &= left - 1) {
    const square = <i32>ctz(left);
    const known = <i32>load<u8>(values[side] + ((<usize>row << 6) | square));
    if (known == 0 || known > value) setValue(side, row, square, value);
  }
}

/** Positions from which a side moves to one that is lost. */
function winBefore(side: i32, row: u32, behind: u64, value: i32): void {
  if (side == 1) win(1, row, beside(behind), value);
  decode(row);
  const count = linksOf(side, row);
  for (let link = 0; link < count; link++)
    win(side, linkRow[link], turnedSet(linkWay[link], behind & linkClear[link]), value);
}

/** Rows of a side whose positions may be lost now that some are won for the other. */
function markBefore(side: i32, row: u32): void {
  if (side == 1) mark(1, row);
  decode(row);
  const count = linksOf(side, row);
  for (let link = 0; link < count; link++) mark(side, linkRow[link]);
}

// @ts-ignore: decorator
@inline function mark(side: i32, row: u32): void {
  if (load<u64>(setAt(losable, side, row)) == 0) return;
  store<u8>(stale + row, load<u8>(stale + row) | (<u8>1 << <u8>side));
}

/** Looks whether positions of a row have a move left that does not lose. */
function lose(side: i32, row: u32, value: i32): void {
  const at = setAt(losable, side, row);
  const asked = load<u64>(at);
  if (asked == 0) return;
  decode(row);
  const fresh = asked & ~escapes(side, row, asked);
  if (fresh == 0) return;
  store<u64>(at, asked & ~fresh);
  const winnableAt = setAt(winnable, side, row);
  store<u64>(winnableAt, load<u64>(winnableAt) & ~fresh);
  for (let left = fresh; left != 0; left &= left - 1) {
    const square = <i32>ctz(left);
    const outside = <i32>load<u8>(worst[side] + ((<usize>row << 6) | square));
    setValue(side, row, square, max(value, outside));
  }
}

// ---- the passes

/** What is known of a row by itself, and by the moves that leave the slice. */
function judge(side: i32, row: u32): void {
  const at = setAt(winnable, side, row);
  const all = load<u64>(at);
  if (all == 0) return;
  won = 0;
  lost = 0;
  safe = 0;
  wonSoon = 0;
  lostSoon = 0;
  wonIn.fill(NONE);
  lostIn.fill(0);
  leave(side, all, true);
  const inside = escapes(side, row, all);
  occupy(-1);
  const none = all & ~inside & ~(won | lost | safe);
  const mated = none & attacked(side, -1);
  safe |= none & ~mated;
  lost &= ~(won | safe);
  const ended = mated | (lost & ~inside);
  store<u64>(at, all & ~ended);
  store<u64>(setAt(losable, side, row), all & ~(won | safe | ended));
  for (let left = won; left != 0; left &= left - 1)
    setValue(side, row, <i32>ctz(left), winIn(<i32>ctz(left)));
  for (let left = ended; left != 0; left &= left - 1) {
    const square = <i32>ctz(left);
    setValue(side, row, square, bit(square) & mated ? 1 : lossIn(square));
  }
  const slow = worst[side] + (<usize>row << 6);
  memory.fill(slow, 0, 64);
  for (let left = lost & inside; left != 0; left &= left - 1)
    store<u8>(slow + <usize>ctz(left), <u8>lossIn(<i32>ctz(left)));
}

/** Looks at all positions; the first pass. */
export function prepare(): void {
  for (let row: u32 = 0; row < rows; row++) {
    decode(row);
    for (let side = 0; side < 2; side++) {
      const legal = legalAfter(side ^ 1, -1);
      store<u64>(setAt(unwon, side, row), legal);
      store<u64>(setAt(winnable, side, row), legal);
      store<u64>(setAt(losable, side, row), 0);
      const at = values[side] + (<usize>row << 6);
      memory.fill(at, 0, 64);
      for (let left = ~legal; left != 0; left &= left - 1) store<u8>(at + <usize>ctz(left), NONE);
    }
  }
  memory.fill(stale, 0, rows);
  for (let row: u32 = 0; row < rows; row++)
    for (let side = 0; side < 2; side++) {
      decode(row);
      judge(side, row);
    }
}

/** Positions of a row that have a value. */
// @ts-ignore: decorator
@inline function having(at: usize, wanted: v128): u64 {
  const first = i8x16.eq(v128.load(at), wanted);
  const second = i8x16.eq(v128.load(at, 16), wanted);
  const third = i8x16.eq(v128.load(at, 32), wanted);
  const fourth = i8x16.eq(v128.load(at, 48), wanted);
  if (!v128.any_true(v128.or(v128.or(first, second), v128.or(third, fourth)))) return 0;
  return (
    <u64>(<u32>i8x16.bitmask(first) | (<u32>i8x16.bitmask(second) << 16)) |
    (<u64>(<u32>i8x16.bitmask(third) | (<u32>i8x16.bitmask(fourth) << 16)) << 32)
  );
}

/** Spreads all positions that have a value; true while there may be slower ones. The second pass, value by value from 1 on. */
export function layer(code: i32): bool {
  const wanted = i8x16.splat(<i8>code);
  const isLost = (code & 1) != 0;
  for (let side = 0; side < 2; side++) {
    let at = values[side];
    for (let row: u32 = 0; row < rows; row++, at += 64) {
      const found = having(at, wanted);
      if (found == 0) continue;
      if (isLost) {
        winBefore(side ^ 1, row, found, code + 1);
        continue;
      }
      const unwonAt = setAt(unwon, side, row);
      store<u64>(unwonAt, load<u64>(unwonAt) & ~found);
      const winnableAt = setAt(winnable, side, row);
      store<u64>(winnableAt, load<u64>(winnableAt) & ~found);
      markBefore(side ^ 1, row);
    }
  }
  if (!isLost)
    for (let row: u32 = 0; row < rows; row++) {
      const marked = load<u8>(stale + row);
      if (marked == 0) continue;
      store<u8>(stale + row, 0);
      if (marked & 1) lose(0, row, code + 1);
      if (marked & 2) lose(1, row, code + 1);
    }
  return code < top;
}

/** Puts the values where the numbers of positions say; the last pass. */
export function finish(): void {
  const inRow = 6 * free;
  const each: u32 = 1 << inRow;
  const kings: u32 = isPaired ? PAIRS : 64 * 64;
  for (let side = 0; side < 2; side++) {
    let to = worst[side];
    for (let pair: u32 = 0; pair < kings; pair++) {
      const first: u32 = isPaired ? cornerNumber[pairFirst[pair]] : pair >> 6;
      const second: u32 = isPaired ? pairSecond[pair] : pair & 63;
      let from = values[side] + (((<usize>first << inRow) << 6) | second);
      for (let others: u32 = 0; others < each; others++, from += 64, to++)
        store<u8>(to, load<u8>(from));
    }
  }
}

/** The slowest value there is. */
export function slowest(): i32 {
  return top;
}
