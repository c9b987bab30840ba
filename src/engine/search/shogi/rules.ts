import { noteChange } from '../changes';
import { addAtRoot, resetFeatures } from '../features';
import { fillKeys } from '../keys';
import { countIn, HAND_SHIFTS } from '../../mates/hand';
import { dropOf, fromOf, GAME_PLIES, MOVE_LIST, promotionOf, QUIET, TACTICAL, toOf } from '../moves';

/**
 * Shogi on a board with a rim: square = 11 × file + rank, files and ranks 1–9 as in shogi. A piece is its type
 * (1 pawn … 7 gold, 8 king, promoted +8), plus 16 for White; 255 is the rim.
 */
export const PAWN: i32 = 1;
export const LANCE: i32 = 2;
export const KNIGHT: i32 = 3;
export const SILVER: i32 = 4;
export const BISHOP: i32 = 5;
export const ROOK: i32 = 6;
export const GOLD: i32 = 7;
export const KING: i32 = 8;
const RIM: i32 = 255;

/** Beyond this a game is decided: what counts is the mate, and nothing is left out on the strength of an evaluation. */
export const DECIDED: i32 = 1500;
export const PERPETUAL_LOSES: bool = true;
/** Whether a side without a legal move loses also where it is not in check. */
export const NO_MOVE_LOSES: bool = true;
/** Depth from which a node is searched a ply less where the table knows no move: from 5 on it cost games. */
export const UNGUIDED_FROM: i32 = 7;
/** Depth from which a move that the others do not come near is looked at more deeply: never, since it won nothing (docs/engine.md). */
export const SINGULAR_FROM: i32 = 1000;
/** What {@link moveIndex} can be: both sides, eleven ways to move, 81 squares. */
export const MOVE_INDEXES: i32 = 2 * 11 * 81;

export const board = new StaticArray<u8>(128);
export const hands = new StaticArray<i32>(16);
export const kings = new StaticArray<i32>(2);
/**
 * A set of squares is two words of 64 bits, square by square. Of each side: all its pieces; and, by side and way of
 * moving, the pieces that move so (a gold's way is that of promoted small pieces too).
 */
export const standing = new StaticArray<u64>(4);
const moving = new StaticArray<u64>(2 * 32);
/** By piece: its way of moving with its side, as {@link moving} has them. */
const WAY = new StaticArray<u8>(32);
/** By piece: the first of its numbers in {@link moveIndex}; small promoted pieces share theirs. */
const FIRST_INDEX = new StaticArray<i32>(32);
/** By square: the set of that square alone, its number 0–80, its file. */
const ALONE = new StaticArray<u64>(2 * 128);
const NUMBER = new StaticArray<i32>(128);
const FILE = new StaticArray<u8>(128);
/** By side and square: the rank as that side counts it, 1 the farthest. */
const FAR_RANK = new StaticArray<u8>(256);
/** By side: the squares where its pieces promote. */
const ZONE = new StaticArray<u64>(4);
/** Direction from one square to another, or 8 where they are on no line. */
const DIRECTION = new StaticArray<u8>(128 * 128);
/** By piece and square: where it can go in one step (a slider, where it does not slide). */
const REACH = new StaticArray<u64>(2 * 32 * 128);
/** By side and square: squares from which a lance of the other side may attack it; by square: the same of rooks and bishops. */
const LANCE_LINES = new StaticArray<u64>(2 * 256);
const ROOK_LINES = new StaticArray<u64>(2 * 128);
const BISHOP_LINES = new StaticArray<u64>(2 * 128);
/** By side and type: the squares where it may be dropped. */
const DROPPABLE = new StaticArray<u64>(32);
const FILE_SETS = new StaticArray<u64>(2 * 10);

/** Of the position at each depth of the line: its key. */
export const keys = new StaticArray<u64>(GAME_PLIES + 1);
/** Of the same: own pieces whose moves need a look before they are safe; as long as that is all, nothing is known of it yet. */
const suspectsAt = new StaticArray<u64>(2 * (GAME_PLIES + 1));
const UNKNOWN: u64 = ~0;
/** Of the same, once known: how many pieces give check, and where a check can be met. */
const checkersAt = new StaticArray<i32>(GAME_PLIES + 1);
const answersAt = new StaticArray<u64>(2 * (GAME_PLIES + 1));

/** The square with a number. */
const SQUARES = new StaticArray<i32>(81);
/**
 * Features of a piece on a square, and of one more in hand, for either view (features.ts). Their placement: piece × 128 +
 * square; {@link HELD_AT} + (side × 8 + type) × 20 + which of those held.
 */
export const FEATURES = new StaticArray<i32>(32 * 128 + 16 * 20);
export const HELD_AT: i32 = 32 * 128;
export const FEATURE_COUNT: i32 = 2 * 14 * 81 + 2 * 38;

export let side: i32 = 0;
/** How many moves of the line have been played. */
export let top: i32 = 0;

/** The move played at each depth, with the piece that moved (bits 22–26) and what it captured (27–31). */
const played = new StaticArray<u32>(GAME_PLIES);
/** How many were held of what was dropped (before) or captured (after). */
const heldAt = new StaticArray<u8>(GAME_PLIES);

const PIECE_KEYS = new StaticArray<u64>(32 * 128);
const HAND_KEYS = new StaticArray<u64>(16 * 20);
const SIDE_KEY: u64 = 0x52c8e1f70b3d964a;

/** N, E, NE, NW, SE, SW, W, S as steps on the board; opposite directions add up to 7. */
const STEPS = new StaticArray<i32>(8);
/** By piece: bits of the directions in which it steps, and in which it slides. */
const STEP_MASK = new StaticArray<i32>(32);
const SLIDE_MASK = new StaticArray<i32>(32);

// @ts-ignore: decorator
@inline function bit(square: i32): u64 {
  return (<u64>1) << (<u64>square);
}

// @ts-ignore: decorator
@inline function wordOf(square: i32): i32 {
  return square >> 6;
}

/** Where the set with an index lies. */
// @ts-ignore: decorator
@inline function at(sets: StaticArray<u64>, index: i32): usize {
  return changetype<usize>(sets) + (<usize>index << 4);
}

// @ts-ignore: decorator
@inline function flip(sets: StaticArray<u64>, index: i32, changed: v128): void {
  const address = at(sets, index);
  v128.store(address, v128.xor(v128.load(address), changed));
}

// @ts-ignore: decorator
@inline function has(sets: StaticArray<u64>, index: i32, square: i32): bool {
  return (sets[(index << 1) | wordOf(square)] & bit(square)) != 0;
}

// @ts-ignore: decorator
@inline function wordIn(set: v128, word: i32): u64 {
  return word == 0 ? i64x2.extract_lane(set, 0) : i64x2.extract_lane(set, 1);
}

/** Pieces of a side that move as a type does, in one word of their set. */
// @ts-ignore: decorator
@inline export function movingSo(type: i32, owner: i32, word: i32): u64 {
  return moving[((type | (owner << 4)) << 1) | word];
}

function add(sets: StaticArray<u64>, index: i32, square: i32): void {
  sets[(index << 1) | wordOf(square)] |= bit(square);
}

function mirrored(mask: i32): i32 {
  // N and S, NE and SE, NW and SW change places
  let result = mask & ((1 << 1) | (1 << 6));
  if (mask & 1) result |= 1 << 7;
  if (mask & (1 << 7)) result |= 1;
  if (mask & (1 << 2)) result |= 1 << 4;
  if (mask & (1 << 4)) result |= 1 << 2;
  if (mask & (1 << 3)) result |= 1 << 5;
  if (mask & (1 << 5)) result |= 1 << 3;
  return result;
}

export function initRules(): void {
  fillKeys(PIECE_KEYS, 32 * 128);
  fillKeys(HAND_KEYS, 16 * 20);
  // of what is not held there is nothing to tell
  for (let index = 0; index < 16; index++) HAND_KEYS[index * 20] = 0;
  STEPS[0] = -1;
  STEPS[1] = -11;
  STEPS[2] = -12;
  STEPS[3] = 10;
  STEPS[4] = -10;
  STEPS[5] = 12;
  STEPS[6] = 11;
  STEPS[7] = 1;
  const orthogonal = 1 | 2 | 64 | 128;
  const diagonal = 4 | 8 | 16 | 32;
  const gold = orthogonal | 4 | 8;
  STEP_MASK[PAWN] = 1;
  STEP_MASK[LANCE] = 1;
  STEP_MASK[SILVER] = 1 | diagonal;
  STEP_MASK[BISHOP] = diagonal;
  STEP_MASK[ROOK] = orthogonal;
  STEP_MASK[GOLD] = gold;
  STEP_MASK[KING] = 255;
  for (let type = PAWN; type <= SILVER; type++) STEP_MASK[type + 8] = gold;
  STEP_MASK[BISHOP + 8] = 255;
  STEP_MASK[ROOK + 8] = 255;
  SLIDE_MASK[LANCE] = 1;
  SLIDE_MASK[BISHOP] = diagonal;
  SLIDE_MASK[BISHOP + 8] = diagonal;
  SLIDE_MASK[ROOK] = orthogonal;
  SLIDE_MASK[ROOK + 8] = orthogonal;
  for (let type = 1; type < 16; type++) {
    STEP_MASK[type + 16] = mirrored(STEP_MASK[type]);
    SLIDE_MASK[type + 16] = mirrored(SLIDE_MASK[type]);
  }
  initSquares();
  initFeatures();
}

function initSquares(): void {
  for (let piece = 0; piece < 32; piece++) {
    const type = piece & 15;
    const isGold = type > KING && type < BISHOP + 8;
    WAY[piece] = <u8>(isGold ? GOLD | (piece & 16) : piece);
    const way = type <= KING ? type - 1 : type == BISHOP + 8 ? 8 : type == ROOK + 8 ? 9 : 10;
    FIRST_INDEX[piece] = ((piece >> 4) * 11 + way) * 81;
  }
  for (let i = 0; i < 128 * 128; i++) DIRECTION[i] = 8;
  for (let square = 0; square < 128; square++) {
    if (!isOnBoard(square)) continue;
    const file = square / 11;
    const rank = square % 11;
    NUMBER[square] = (file - 1) * 9 + rank - 1;
    SQUARES[NUMBER[square]] = square;
    FILE[square] = <u8>file;
    FAR_RANK[square] = <u8>rank;
    FAR_RANK[128 | square] = <u8>(10 - rank);
    add(ALONE, square, square);
    add(FILE_SETS, file, square);
    for (let owner = 0; owner < 2; owner++) {
      if (farRank(square, owner) <= 3) add(ZONE, owner, square);
      for (let type = PAWN; type <= GOLD; type++) {
        const least = type == KNIGHT ? 3 : type == PAWN || type == LANCE ? 2 : 1;
        if (farRank(square, owner) >= least) add(DROPPABLE, (owner << 3) | type, square);
      }
      const ahead = square + (owner == 0 ? -2 : 2);
      for (let sideways = -11; sideways <= 11; sideways += 22)
        if (isOnBoard(ahead + sideways)) add(REACH, ((KNIGHT | (owner << 4)) << 7) | square, ahead + sideways);
    }
    for (let direction = 0; direction < 8; direction++) {
      const step = STEPS[direction];
      const isStraight = direction < 2 || direction > 5;
      for (let to = square + step; isOnBoard(to); to += step) {
        DIRECTION[(square << 7) | to] = <u8>direction;
        add(isStraight ? ROOK_LINES : BISHOP_LINES, square, to);
        if (direction == 0) add(LANCE_LINES, square, to);
        else if (direction == 7) add(LANCE_LINES, 128 | square, to);
      }
      for (let piece = 0; piece < 32; piece++)
        if ((STEP_MASK[piece] & ~SLIDE_MASK[piece] & (1 << direction)) != 0 && isOnBoard(square + step))
          add(REACH, (piece << 7) | square, square + step);
    }
  }
}

function isOnBoard(square: i32): bool {
  const file = square / 11;
  const rank = square % 11;
  return square > 0 && file >= 1 && file <= 9 && rank >= 1 && rank <= 9;
}

/** Numbers the features: own pieces, then the other's, by type and square; then pieces in hand. */
function initFeatures(): void {
  for (let type = 1; type < 16; type++) {
    if (type == 15) continue;
    const kind = type - 1;
    for (let number = 0; number < 81; number++) {
      const square = SQUARES[number];
      const turned = SQUARES[80 - number];
      const own = kind * 81 + number;
      const other = (14 + kind) * 81 + 80 - number;
      FEATURES[(type << 7) | square] = own | (other << 16);
      FEATURES[((type | 16) << 7) | turned] = other | (own << 16);
    }
  }
  let next = 2 * 14 * 81;
  for (let type = PAWN; type <= GOLD; type++) {
    const most = type == PAWN ? 18 : type == BISHOP || type == ROOK ? 2 : 4;
    for (let count = 1; count <= most; count++) {
      FEATURES[HELD_AT + type * 20 + count] = next | ((next + 38) << 16);
      FEATURES[HELD_AT + (8 + type) * 20 + count] = (next + 38) | (next << 16);
      next++;
    }
  }
}

export function clearPosition(): void {
  for (let square = 0; square < 128; square++) {
    const file = square / 11;
    const rank = square % 11;
    board[square] = file >= 1 && file <= 9 && rank >= 1 && rank <= 9 ? 0 : <u8>RIM;
  }
  for (let i = 0; i < 16; i++) hands[i] = 0;
  for (let i = 0; i < 64; i++) moving[i] = 0;
  kings[0] = 0;
  kings[1] = 0;
  side = 0;
  top = 0;
  keys[0] = 0;
  for (let i = 0; i < 4; i++) standing[i] = 0;
  suspectsAt[0] = UNKNOWN;
  resetFeatures();
}

export function putPiece(square: i32, piece: i32): void {
  const alone = v128.load(at(ALONE, square));
  board[square] = <u8>piece;
  flip(standing, piece >> 4, alone);
  flip(moving, WAY[piece], alone);
  if ((piece & 15) == KING) kings[piece >> 4] = square;
  keys[0] ^= PIECE_KEYS[(piece << 7) | square];
  addAtRoot((piece << 7) | square);
}

export function putHand(owner: i32, type: i32, count: i32): void {
  const index = (owner << 3) | type;
  hands[index] = count;
  keys[0] ^= HAND_KEYS[index * 20 + count];
  for (let i = 1; i <= count; i++) addAtRoot(HELD_AT + index * 20 + i);
}

export function setState(toMove: i32, rights: i32, passed: i32, count: i32): void {
  side = toMove;
  if (side == 1) keys[0] ^= SIDE_KEY;
}

export function currentKey(): u64 {
  return keys[top];
}

/** The pieces of a side that attack a square by a step. */
// @ts-ignore: decorator
@inline function steppersOn(square: i32, by: i32): v128 {
  const own = by << 4;
  // what a piece of the other side would reach from the square can reach it in turn
  const other = (1 - by) << 4;
  const wide = v128.or(
    v128.load(at(moving, KING | own)),
    v128.or(v128.load(at(moving, (BISHOP + 8) | own)), v128.load(at(moving, (ROOK + 8) | own))),
  );
  let found = v128.and(v128.load(at(REACH, ((KING | other) << 7) | square)), wide);
  found = v128.or(found, v128.and(v128.load(at(REACH, ((PAWN | other) << 7) | square)), v128.load(at(moving, PAWN | own))));
  found = v128.or(found, v128.and(v128.load(at(REACH, ((KNIGHT | other) << 7) | square)), v128.load(at(moving, KNIGHT | own))));
  found = v128.or(found, v128.and(v128.load(at(REACH, ((SILVER | other) << 7) | square)), v128.load(at(moving, SILVER | own))));
  return v128.or(found, v128.and(v128.load(at(REACH, ((GOLD | other) << 7) | square)), v128.load(at(moving, GOLD | own))));
}

/** The pieces of a side that would attack a square by sliding if nothing stood between. */
// @ts-ignore: decorator
@inline function slidersOn(square: i32, by: i32): v128 {
  const own = by << 4;
  const rooks = v128.or(v128.load(at(moving, ROOK | own)), v128.load(at(moving, (ROOK + 8) | own)));
  const bishops = v128.or(v128.load(at(moving, BISHOP | own)), v128.load(at(moving, (BISHOP + 8) | own)));
  const lances = v128.load(at(moving, LANCE | own));
  return v128.or(
    v128.and(lances, v128.load(at(LANCE_LINES, ((1 - by) << 7) | square))),
    v128.or(
      v128.and(rooks, v128.load(at(ROOK_LINES, square))),
      v128.and(bishops, v128.load(at(BISHOP_LINES, square))),
    ),
  );
}

function isAttacked(square: i32, by: i32): bool {
  if (v128.any_true(steppersOn(square, by))) return true;
  const sliders = slidersOn(square, by);
  if (!v128.any_true(sliders)) return false;
  for (let word = 0; word < 2; word++)
    for (let left = wordIn(sliders, word); left != 0; left &= left - 1) {
      const slider = (word << 6) | <i32>ctz(left);
      const step = STEPS[DIRECTION[(square << 7) | slider]];
      let between = square + step;
      while (board[between] == 0) between += step;
      if (between == slider) return true;
    }
  return false;
}

/** Finds what gives check, where it can be met, and what is pinned, once for each position of the line. */
function study(): void {
  checkersAt[top] = 0;
  const none = i64x2.splat(0);
  v128.store(at(suspectsAt, top), none);
  v128.store(at(answersAt, top), none);
  const king = kings[side];
  if (king == 0) return;
  v128.store(at(suspectsAt, top), v128.load(at(ALONE, king)));
  const steppers = steppersOn(king, 1 - side);
  if (v128.any_true(steppers)) {
    checkersAt[top] = <i32>(popcnt(i64x2.extract_lane(steppers, 0)) + popcnt(i64x2.extract_lane(steppers, 1)));
    v128.store(at(answersAt, top), steppers);
  }
  const sliders = slidersOn(king, 1 - side);
  if (!v128.any_true(sliders)) return;
  for (let word = 0; word < 2; word++)
    for (let left = wordIn(sliders, word); left != 0; left &= left - 1)
      studySlider(king, (word << 6) | <i32>ctz(left));
}

/** A slider on a line with the king gives check, pins a piece, or is shut off. */
function studySlider(king: i32, slider: i32): void {
  const step = STEPS[DIRECTION[(king << 7) | slider]];
  let between = king + step;
  while (board[between] == 0) between += step;
  if (between == slider) {
    // a horse or a dragon beside the king is a stepper already
    if (has(answersAt, top, slider)) return;
    checkersAt[top]++;
    for (let square = king + step; square != slider; square += step) add(answersAt, top, square);
    add(answersAt, top, slider);
    return;
  }
  if (<i32>board[between] >> 4 != side) return;
  const shield = between;
  do between += step;
  while (board[between] == 0);
  if (between == slider) add(suspectsAt, top, shield);
}

export function inCheck(): bool {
  if (suspectsAt[top << 1] == UNKNOWN) study();
  return checkersAt[top] != 0;
}

/** Whether a pseudo-legal move of a piece on the board leaves the own king safe; moves of others than the king must meet a check already. */
function isSafe(move: i32): bool {
  const king = kings[side];
  if (king == 0) return true;
  const from = fromOf(move);
  if (from == king) {
    const piece = board[from];
    board[from] = 0;
    const safe = !isAttacked(toOf(move), 1 - side);
    board[from] = piece;
    return safe;
  }
  if (suspectsAt[top << 1] == UNKNOWN) study();
  return (
    !has(suspectsAt, top, from) ||
    DIRECTION[(king << 7) | from] == DIRECTION[(king << 7) | toOf(move)]
  );
}

/** Plays a pseudo-legal move; an illegal one is not played and false returned. */
export function makeMove(move: i32): bool {
  const to = toOf(move);
  const ply = top;
  const mover = side;
  const dropped = dropOf(move);
  let key = keys[ply] ^ SIDE_KEY;
  let changed = v128.load(at(ALONE, to));
  if (dropped != 0) {
    const piece = dropped | (mover << 4);
    const index = (mover << 3) | dropped;
    const held = hands[index];
    hands[index] = held - 1;
    heldAt[ply] = <u8>held;
    board[to] = <u8>piece;
    flip(standing, mover, changed);
    flip(moving, piece, changed);
    key ^= HAND_KEYS[index * 20 + held] ^ HAND_KEYS[index * 20 + held - 1] ^ PIECE_KEYS[(piece << 7) | to];
    played[ply] = move | (piece << 22);
  } else {
    const from = fromOf(move);
    if (has(suspectsAt, ply, from) && !isSafe(move)) return false;
    const piece = <i32>board[from];
    const captured = <i32>board[to];
    const placed = piece + (promotionOf(move) << 3);
    if (captured != 0) {
      flip(standing, 1 - mover, changed);
      flip(moving, WAY[captured], changed);
      key ^= PIECE_KEYS[(captured << 7) | to];
      if ((captured & 15) != KING) {
        const index = (mover << 3) | handType(captured);
        const held = hands[index] + 1;
        hands[index] = held;
        heldAt[ply] = <u8>held;
        key ^= HAND_KEYS[index * 20 + held - 1] ^ HAND_KEYS[index * 20 + held];
      }
    }
    board[from] = 0;
    board[to] = <u8>placed;
    const left = v128.load(at(ALONE, from));
    if (placed != piece) {
      flip(moving, WAY[piece], left);
      flip(moving, WAY[placed], changed);
      changed = v128.xor(changed, left);
    } else {
      changed = v128.xor(changed, left);
      flip(moving, WAY[piece], changed);
    }
    flip(standing, mover, changed);
    key ^= PIECE_KEYS[(piece << 7) | from] ^ PIECE_KEYS[(placed << 7) | to];
    played[ply] = move | (piece << 22) | (captured << 27);
    if ((piece & 15) == KING) kings[mover] = to;
  }
  keys[ply + 1] = key;
  suspectsAt[(ply + 1) << 1] = UNKNOWN;
  suspectsAt[((ply + 1) << 1) | 1] = UNKNOWN;
  top = ply + 1;
  side = 1 - mover;
  if (dropped == PAWN && givesCheckByPawn(to) && !hasLegalMove()) {
    undoMove();
    return false;
  }
  return true;
}

/** What a captured piece becomes in hand. */
// @ts-ignore: decorator
@inline function handType(piece: i32): i32 {
  const type = piece & 15;
  return type > KING ? type & 7 : type;
}

/** Whether the pawn just dropped attacks the king of the side that is now to move. */
function givesCheckByPawn(square: i32): bool {
  return square + (side == 1 ? -1 : 1) == kings[side];
}

/** Room for the moves that {@link hasLegalMove} tries, apart from those of the search. */
const REPLIES: i32 = 256 * 598;

function hasLegalMove(): bool {
  const end = generate(REPLIES, TACTICAL | QUIET);
  for (let i = REPLIES; i < end; i++)
    if (dropOf(MOVE_LIST[i]) != PAWN && makeMove(MOVE_LIST[i])) {
      undoMove();
      return true;
    }
  return false;
}

export function undoMove(): void {
  const ply = top - 1;
  const mover = 1 - side;
  top = ply;
  side = mover;
  const record = played[ply];
  const to = toOf(record);
  const piece = <i32>(record >> 22) & 31;
  let changed = v128.load(at(ALONE, to));
  const dropped = dropOf(record);
  if (dropped != 0) {
    board[to] = 0;
    flip(standing, mover, changed);
    flip(moving, piece, changed);
    hands[(mover << 3) | dropped]++;
    return;
  }
  const from = fromOf(record);
  const captured = <i32>(record >> 27);
  board[from] = <u8>piece;
  board[to] = <u8>captured;
  if (captured != 0) {
    flip(standing, 1 - mover, changed);
    flip(moving, WAY[captured], changed);
    if ((captured & 15) != KING) hands[(mover << 3) | handType(captured)]--;
    else kings[1 - mover] = to;
  }
  const left = v128.load(at(ALONE, from));
  if (promotionOf(record) != 0) {
    flip(moving, WAY[piece], left);
    flip(moving, WAY[piece + 8], changed);
    changed = v128.xor(changed, left);
  } else {
    changed = v128.xor(changed, left);
    flip(moving, WAY[piece], changed);
  }
  flip(standing, mover, changed);
  if ((piece & 15) == KING) kings[mover] = from;
}

export function makeNull(): void {
  played[top] = 0;
  keys[top + 1] = keys[top] ^ SIDE_KEY;
  top++;
  suspectsAt[top << 1] = UNKNOWN;
  suspectsAt[(top << 1) | 1] = UNKNOWN;
  side = 1 - side;
}

export function undoNull(): void {
  top--;
  side = 1 - side;
}

export function reversiblePlies(): i32 {
  return top;
}

export function isDrawn(): bool {
  return false;
}

export function hasPieces(): bool {
  return true;
}

// @ts-ignore: decorator
@inline function farRank(square: i32, owner: i32): i32 {
  return FAR_RANK[(owner << 7) | square];
}

/** Writes a move that may promote, and the same move without. */
function addPromotable(from: i32, to: i32, type: i32, wanted: i32, end: i32): i32 {
  const capture = board[to] != 0;
  const move = from | (to << 7);
  const tactical = capture || promotesTactically(type);
  if ((wanted & (tactical ? TACTICAL : QUIET)) != 0) MOVE_LIST[end++] = move | (1 << 18);
  const rank = farRank(to, side);
  if (rank == 1 && (type == PAWN || type == LANCE || type == KNIGHT)) return end;
  if (rank == 2 && type == KNIGHT) return end;
  if (leavesOut && isPointless(from, to, type)) return end;
  if ((wanted & (capture ? TACTICAL : QUIET)) != 0) MOVE_LIST[end++] = move;
  return end;
}

/** Whether {@link generate} leaves out promotions declined without a reason. */
let leavesOut: bool = false;

/** Says whether promotions declined without a reason are to be generated: where moves are counted they are, in a search not. */
export function leaveOutPointless(yes: bool): void {
  leavesOut = yes;
}

/** Whether the side that attacks a king might drop a pawn before it; what moves away from `from` is gone. */
function mayDropBefore(owner: i32, from: i32, to: i32): bool {
  const king = kings[owner];
  const attacker = 1 - owner;
  const before = king + (attacker == 0 ? 1 : -1);
  if (board[before] == RIM || before == to || (board[before] != 0 && before != from)) return false;
  const pawn = PAWN | (attacker << 4);
  const first = king - (king % 11);
  for (let rank = 1; rank <= 9; rank++)
    if (<i32>board[first + rank] == pawn && first + rank != from) return false;
  return true;
}

/** Whether a promotion may be declined for the sake of a king: a pawn could give mate beside it, which a dropped one may not. */
function mattersTo(owner: i32, from: i32, to: i32): bool {
  const king = kings[owner];
  if (king == 0 || abs(king / 11 - to / 11) > 2 || abs((king % 11) - (to % 11)) > 2) return false;
  const attacker = 1 - owner;
  const takesPawn = attacker == side && (<i32>board[to] & 7) == PAWN && (<i32>board[to] & 15) != 0;
  return (hands[(attacker << 3) | PAWN] != 0 || takesPawn) && mayDropBefore(owner, from, to);
}

/** A promotion declined where the piece loses nothing by it, and no reason is in sight (core/shogi/choices.ts). */
function isPointless(from: i32, to: i32, type: i32): bool {
  if (!promotesTactically(type) && (type != LANCE || farRank(to, side) != 2)) return false;
  return !mattersTo(0, from, to) && !mattersTo(1, from, to);
}

/** Whether a move declines a promotion without a reason. */
export function isPointlessMove(move: i32): bool {
  if (dropOf(move) != 0 || promotionOf(move) != 0) return false;
  const from = fromOf(move);
  const to = toOf(move);
  const type = <i32>board[from] & 15;
  if (type > ROOK || (farRank(from, side) > 3 && farRank(to, side) > 3)) return false;
  return isPointless(from, to, type);
}

/** Whether promoting a type changes so much that it counts as tactical. */
// @ts-ignore: decorator
@inline function promotesTactically(type: i32): bool {
  return type == PAWN || type == BISHOP || type == ROOK;
}

/** Writes a move to each square of a word of a set; `move` holds all but the target. */
// @ts-ignore: decorator
@inline function addInWord(move: i32, targets: u64, word: i32, end: i32): i32 {
  for (; targets != 0; targets &= targets - 1) MOVE_LIST[end++] = move | (((word << 6) | <i32>ctz(targets)) << 7);
  return end;
}

/**
 * Writes pseudo-legal moves from index `start` on and returns the end: {@link TACTICAL} (captures and the promotions
 * that change most), {@link QUIET} or both. In check, only moves that may answer it.
 */
export function generate(start: i32, wanted: i32): i32 {
  const end = generateBoardMoves(start, wanted);
  return (wanted & QUIET) != 0 && checkersAt[top] <= 1 ? addDrops(end) : end;
}

/** The same without drops. */
export function generateBoardMoves(start: i32, wanted: i32): i32 {
  if (suspectsAt[top << 1] == UNKNOWN) study();
  let end = start;
  const checkers = checkersAt[top];
  const king = kings[side];
  if (checkers > 1) return addMoves(king, wanted, ~0, ~0, end);
  const met = checkers != 0;
  const answersBelow = met ? answersAt[top << 1] : ~0;
  const answersAbove = met ? answersAt[(top << 1) | 1] : ~0;
  for (let word = 0; word < 2; word++)
    for (let left = standing[(side << 1) | word]; left != 0; left &= left - 1) {
      const from = (word << 6) | <i32>ctz(left);
      const free = from == king;
      end = addMoves(from, wanted, free ? ~0 : answersBelow, free ? ~0 : answersAbove, end);
    }
  return end;
}

/** Writes the drops that give check and, in check, answer it. */
export function generateDropChecks(start: i32): i32 {
  if (suspectsAt[top << 1] == UNKNOWN) study();
  const king = kings[1 - side];
  if (king == 0 || checkersAt[top] > 1) return start;
  findChecking(king, false);
  const met = checkersAt[top] != 0;
  let end = start;
  for (let type = PAWN; type <= GOLD; type++) {
    if (hands[(side << 3) | type] == 0) continue;
    for (let word = 0; word < 2; word++) {
      let targets = checking[(type << 1) | word] & dropSquares(type, word);
      if (met) targets &= answersAt[(top << 1) | word];
      end = addInWord(type << 14, targets, word, end);
    }
  }
  return end;
}

/** By what a board is known again, whatever is in hand. */
export function boardKey(): u64 {
  let key = keys[top];
  for (let index = PAWN; index <= GOLD; index++)
    key ^= HAND_KEYS[index * 20 + hands[index]] ^ HAND_KEYS[(8 | index) * 20 + hands[8 | index]];
  return key;
}

/** What a side holds, as mates/hand.ts packs it. */
export function packedHand(owner: i32): u32 {
  let hand: u32 = 0;
  for (let type = PAWN; type <= GOLD; type++) hand |= <u32>hands[(owner << 3) | type] << HAND_SHIFTS[type];
  return hand;
}

/** What must be held before a move for a hand to be held after it. */
export function handBefore(move: i32, after: u32): u32 {
  const dropped = dropOf(move);
  if (dropped != 0) return after + (1 << HAND_SHIFTS[dropped]);
  const captured = <i32>board[toOf(move)];
  if (captured == 0 || (captured & 15) == KING) return after;
  const type = handType(captured);
  return countIn(after, type) == 0 ? after : after - (1 << HAND_SHIFTS[type]);
}

/** Of a hand, the types of which a side holds none. */
export function heldWhereNone(owner: i32, hand: u32): u32 {
  let held: u32 = 0;
  for (let type = PAWN; type <= GOLD; type++)
    if (hands[(owner << 3) | type] == 0) held |= countIn(hand, type) << HAND_SHIFTS[type];
  return held;
}

/** Whether a check might be met by a piece put between. */
export function canBeMetBetween(): bool {
  if (suspectsAt[top << 1] == UNKNOWN) study();
  return checkersAt[top] == 1 && popcnt(answersAt[top << 1]) + popcnt(answersAt[(top << 1) | 1]) > 1;
}

/** Whether a square stands behind another, as seen from the king of the side not to move. */
export function isBehind(square: i32, other: i32): bool {
  const direction = DIRECTION[(kings[1 - side] << 7) | other];
  return direction != 8 && direction == DIRECTION[(other << 7) | square];
}

/** Writes the moves of a piece to squares of a set given by its two words. */
// @ts-ignore: decorator
@inline function addMoves(from: i32, wanted: i32, below: u64, above: u64, end: i32): i32 {
  const piece = <i32>board[from];
  const type = piece & 15;
  const reach = reachOf(piece, from);
  let low = i64x2.extract_lane(reach, 0);
  let high = i64x2.extract_lane(reach, 1);
  low &= below & ~standing[side << 1];
  high &= above & ~standing[(side << 1) | 1];
  const others = (1 - side) << 1;
  const zone = side << 1;
  const everywhere = has(ZONE, side, from);
  if (wanted == TACTICAL) {
    const promotes = promotesTactically(type);
    low &= standing[others] | (promotes ? (everywhere ? ~0 : ZONE[zone]) : 0);
    high &= standing[others | 1] | (promotes ? (everywhere ? ~0 : ZONE[zone | 1]) : 0);
  } else if (wanted == QUIET) {
    low &= ~standing[others];
    high &= ~standing[others | 1];
  }
  if ((low | high) == 0) return end;
  if (type <= ROOK) {
    let promotes = everywhere ? low : low & ZONE[zone];
    for (low ^= promotes; promotes != 0; promotes &= promotes - 1)
      end = addPromotable(from, <i32>ctz(promotes), type, wanted, end);
    promotes = everywhere ? high : high & ZONE[zone | 1];
    for (high ^= promotes; promotes != 0; promotes &= promotes - 1)
      end = addPromotable(from, 64 | <i32>ctz(promotes), type, wanted, end);
  }
  end = addInWord(from, low, 0, end);
  return addInWord(from, high, 1, end);
}

// @ts-ignore: decorator
@inline function isAnswer(square: i32): bool {
  return has(answersAt, top, square);
}

/** Squares of a word where the side to move might drop a type if they were free. */
// @ts-ignore: decorator
@inline function dropSquares(type: i32, word: i32): u64 {
  const squares = DROPPABLE[(((side << 3) | type) << 1) | word];
  return type == PAWN ? squares & ~pawnFiles(word) : squares;
}

function addDrops(end: i32): i32 {
  const met = checkersAt[top] != 0;
  for (let type = GOLD; type >= PAWN; type--) {
    if (hands[(side << 3) | type] == 0) continue;
    for (let word = 0; word < 2; word++) {
      let targets = dropSquares(type, word) & ~(standing[word] | standing[2 | word]);
      if (met) targets &= answersAt[(top << 1) | word];
      end = addInWord(type << 14, targets, word, end);
    }
  }
  return end;
}

/** A word of the set of the files on which the side to move has an unpromoted pawn. */
function pawnFiles(word: i32): u64 {
  let files: u64 = 0;
  for (let half = 0; half < 2; half++)
    for (let left = moving[((PAWN | (side << 4)) << 1) | half]; left != 0; left &= left - 1)
      files |= FILE_SETS[(<i32>FILE[(half << 6) | <i32>ctz(left)] << 1) | word];
  return files;
}

/** By way of moving: the free squares from which the side to move would attack the other king. */
const checking = new StaticArray<u64>(2 * 16);

function findChecking(king: i32, near: bool): void {
  const other = (1 - side) << 4;
  const beside = v128.load(at(REACH, (KING << 7) | king));
  const leaps = v128.load(at(REACH, ((KNIGHT | other) << 7) | king));
  let free = v128.not(v128.or(v128.load(at(standing, 0)), v128.load(at(standing, 1))));
  if (near) free = v128.and(free, v128.or(beside, leaps));
  // beside the king nothing stands between
  const straight = near ? v128.load(at(ROOK_LINES, king)) : slides(king, SLIDE_MASK[ROOK]);
  const slanted = near ? v128.load(at(BISHOP_LINES, king)) : slides(king, SLIDE_MASK[BISHOP]);
  for (let way = PAWN; way <= GOLD; way++)
    v128.store(at(checking, way), v128.and(free, v128.load(at(REACH, ((way | other) << 7) | king))));
  const lances = v128.load(at(LANCE_LINES, ((1 - side) << 7) | king));
  v128.store(at(checking, LANCE), v128.and(free, v128.and(straight, lances)));
  v128.store(at(checking, BISHOP), v128.and(free, slanted));
  v128.store(at(checking, ROOK), v128.and(free, straight));
  v128.store(at(checking, BISHOP + 8), v128.and(free, v128.or(slanted, beside)));
  v128.store(at(checking, ROOK + 8), v128.and(free, v128.or(straight, beside)));
}

/** Where a piece could slide to in some directions, the first square in its way with it. */
function slides(from: i32, directions: i32): v128 {
  let squares = i64x2.splat(0);
  for (; directions != 0; directions &= directions - 1) {
    const step = STEPS[<i32>ctz(directions)];
    for (let to = from + step; board[to] != RIM; to += step) {
      squares = v128.or(squares, v128.load(at(ALONE, to)));
      if (board[to] != 0) break;
    }
  }
  return squares;
}

/** The squares that a piece reaches by steps and slides, those that own pieces stand on with them. */
// @ts-ignore: decorator
@inline function reachOf(piece: i32, from: i32): v128 {
  const steps = v128.load(at(REACH, (piece << 7) | from));
  return SLIDE_MASK[piece] != 0 ? v128.or(steps, slides(from, SLIDE_MASK[piece])) : steps;
}

/**
 * Writes the quiet moves and drops of pieces that give check from where they come to stand.
 * @param near only checks that can't be met by a piece put between
 */
export function generateChecks(start: i32, near: bool): i32 {
  const king = kings[1 - side];
  if (king == 0) return start;
  findChecking(king, near);
  let end = start;
  for (let type = PAWN; type <= GOLD; type++) {
    if (hands[(side << 3) | type] == 0) continue;
    for (let word = 0; word < 2; word++)
      end = addInWord(type << 14, checking[(type << 1) | word] & dropSquares(type, word), word, end);
  }
  for (let word = 0; word < 2; word++)
    for (let left = standing[(side << 1) | word]; left != 0; left &= left - 1)
      end = addCheckingMoves((word << 6) | <i32>ctz(left), end);
  return end;
}

/** Writes the quiet moves of a piece that give check; what promotes tactically does so wherever it may. */
function addCheckingMoves(from: i32, end: i32): i32 {
  const piece = <i32>board[from];
  const type = piece & 15;
  if (type == KING) return end;
  const reach = reachOf(piece, from);
  let plain = v128.and(reach, v128.load(at(checking, WAY[piece] & 15)));
  if (type < GOLD) {
    const promoting = has(ZONE, side, from) ? reach : v128.and(reach, v128.load(at(ZONE, side)));
    if (promotesTactically(type)) plain = v128.andnot(plain, promoting);
    else end = addToEach(from | (1 << 18), v128.and(promoting, v128.load(at(checking, GOLD))), end);
  }
  return addToEach(from, plain, end);
}

/** Writes a move to each square of a set. */
function addToEach(move: i32, targets: v128, end: i32): i32 {
  end = addInWord(move, i64x2.extract_lane(targets, 0), 0, end);
  return addInWord(move, i64x2.extract_lane(targets, 1), 1, end);
}

// @ts-ignore: decorator
@inline function isDroppable(type: i32, square: i32): bool {
  return (dropSquares(type, wordOf(square)) & bit(square)) != 0;
}

/** Whether a move from elsewhere (the table, another branch) could have been generated here. */
export function isPseudoLegal(move: i32): bool {
  if (move >> 22 != 0) return false;
  const to = toOf(move);
  const dropped = dropOf(move);
  const promotion = promotionOf(move);
  if (board[to] == RIM) return false;
  if (suspectsAt[top << 1] == UNKNOWN) study();
  const checkers = checkersAt[top];
  if (dropped != 0)
    return (
      dropped <= GOLD &&
      fromOf(move) == 0 &&
      promotion == 0 &&
      hands[(side << 3) | dropped] > 0 &&
      board[to] == 0 &&
      isDroppable(dropped, to) &&
      (checkers == 0 || (checkers == 1 && isAnswer(to)))
    );
  const from = fromOf(move);
  const piece = <i32>board[from];
  if (piece == 0 || piece >> 4 != side) return false;
  const target = <i32>board[to];
  if (target != 0 && target >> 4 == side) return false;
  const type = piece & 15;
  if (type != KING && checkers != 0 && (checkers > 1 || !isAnswer(to))) return false;
  const rank = farRank(to, side);
  if (promotion != 0) {
    if (promotion != 1 || type > ROOK || (rank > 3 && farRank(from, side) > 3)) return false;
  } else if (rank == 1 && (type == PAWN || type == LANCE || type == KNIGHT)) return false;
  else if (rank == 2 && type == KNIGHT) return false;
  if (type == KNIGHT) {
    const ahead = from + (side == 0 ? -2 : 2);
    return to == ahead - 11 || to == ahead + 11;
  }
  const direction = <i32>DIRECTION[(from << 7) | to];
  if (direction == 8 || (STEP_MASK[piece] & (1 << direction)) == 0) return false;
  const step = STEPS[direction];
  if (from + step == to) return true;
  if ((SLIDE_MASK[piece] & (1 << direction)) == 0) return false;
  for (let at = from + step; at != to; at += step) if (board[at] != 0) return false;
  return true;
}

export function isTactical(move: i32): bool {
  if (dropOf(move) != 0) return false;
  if (board[toOf(move)] != 0) return true;
  const type = <i32>board[fromOf(move)] & 15;
  return promotionOf(move) != 0 && (type == PAWN || type >= BISHOP);
}

/** Hundredths of a pawn by type, on the board and in hand, for exchanges and the order of moves. */
export const VALUES = StaticArray.fromArray<i32>([
  0, 100, 260, 290, 430, 640, 760, 490, 0, 420, 440, 450, 480, 880, 1020, 0,
]);
export const HAND_VALUES = StaticArray.fromArray<i32>([0, 110, 280, 310, 470, 700, 820, 530]);

/** What a tactical move wins at first sight: a capture takes from the other side and gives into the own hand. */
export function tacticalGain(move: i32): i32 {
  const victim = <i32>board[toOf(move)];
  let gain = victim == 0 ? 0 : VALUES[victim & 15] + HAND_VALUES[handType(victim) & 7];
  if (promotionOf(move) != 0) {
    const type = <i32>board[fromOf(move)] & 15;
    gain += VALUES[type + 8] - VALUES[type];
  }
  return gain;
}

/** Type of the piece that a move captures; 0: none. */
export function capturedType(move: i32): i32 {
  return <i32>board[toOf(move)] & 15;
}

/** A number for the side, the way of moving and the target, below {@link MOVE_INDEXES}. */
export function moveIndex(move: i32): i32 {
  const dropped = dropOf(move);
  const piece = dropped != 0 ? dropped | (side << 4) : <i32>board[fromOf(move)];
  return FIRST_INDEX[piece] + NUMBER[toOf(move)];
}

const exchangers = new StaticArray<i32>(64);

/**
 * Lists the values of what attacks a square, cheapest first, from index 32 × owner on; returns how many. What stands
 * behind another attacker joins in, whichever side that is of.
 */
function listAttackers(square: i32, owner: i32, without: i32): i32 {
  const base = owner << 5;
  let found = 0;
  const steppers = steppersOn(square, owner);
  const sliders = v128.andnot(slidersOn(square, owner), steppers);
  for (let word = 0; word < 2; word++) {
    for (let left = wordIn(steppers, word); left != 0; left &= left - 1) {
      const from = (word << 6) | <i32>ctz(left);
      if (from != without) found = insertExchanger(base, found, board[from] & 15);
    }
    for (let left = wordIn(sliders, word); left != 0; left &= left - 1) {
      const from = (word << 6) | <i32>ctz(left);
      if (from != without && seesThrough(square, from, without)) found = insertExchanger(base, found, board[from] & 15);
    }
  }
  return found;
}

/** Whether all that stands between a square and a slider attacks the square too. */
function seesThrough(square: i32, slider: i32, without: i32): bool {
  const direction = <i32>DIRECTION[(square << 7) | slider];
  const step = STEPS[direction];
  const towards = 1 << (7 - direction);
  for (let between = square + step; between != slider; between += step) {
    const piece = <i32>board[between];
    if (piece == 0 || between == without) continue;
    const mask = between == square + step ? STEP_MASK[piece] : SLIDE_MASK[piece];
    if ((mask & towards) == 0) return false;
  }
  return true;
}

function insertExchanger(base: i32, found: i32, type: i32): i32 {
  const value = type == KING ? 30000 : VALUES[type] + HAND_VALUES[type > KING ? type & 7 : type];
  let at = found;
  while (at > 0 && exchangers[base + at - 1] > value) {
    exchangers[base + at] = exchangers[base + at - 1];
    at--;
  }
  exchangers[base + at] = value;
  return found + 1;
}

/** Whether the exchanges on the target of a move leave at least `least` hundredths of a pawn (static exchange evaluation). */
export function winsAtLeast(move: i32, least: i32): bool {
  const to = toOf(move);
  const dropped = dropOf(move);
  let balance = (isTactical(move) ? tacticalGain(move) : 0) - least;
  if (balance < 0) return false;
  const from = dropped != 0 ? -1 : fromOf(move);
  const type = dropped != 0 ? dropped : <i32>board[from] & 15;
  if (type == KING) return true;
  let atStake =
    VALUES[promotionOf(move) != 0 ? type + 8 : type] + HAND_VALUES[type > KING ? type & 7 : type];
  if (balance >= atStake) return true;
  const others = listAttackers(to, 1 - side, from);
  if (others == 0) return true;
  const owns = listAttackers(to, side, from);
  let turn = 1 - side;
  const used = side << 5;
  let takenByOther = 0;
  let takenByOwn = 0;
  // balance: what the mover has above the least; each capture turns it by what stands on the square
  while (true) {
    const isOther = turn != side;
    if (isOther ? takenByOther == others : takenByOwn == owns) break;
    const value = isOther ? exchangers[((1 - side) << 5) + takenByOther] : exchangers[used + takenByOwn];
    // a king takes part only where nothing takes it back
    if (value == 30000 && (isOther ? takenByOwn < owns : takenByOther < others)) break;
    if (isOther) takenByOther++;
    else takenByOwn++;
    balance += isOther ? -atStake : atStake;
    atStake = value;
    if (isOther == balance >= 0) break;
    turn = 1 - turn;
  }
  return balance >= 0;
}

/** Which of the network's four outputs fits: by the number of pieces in hand. */
export function outputBucket(): i32 {
  let held = 0;
  for (let type = PAWN; type <= GOLD; type++) held += hands[type] + hands[8 | type];
  return held < 3 ? 0 : held < 7 ? 1 : held < 13 ? 2 : 3;
}

/** Notes what the move at a ply of the line added and dropped. */
export function noteChanges(ply: i32): void {
  const move = played[ply];
  if (move == 0) return noteChange(0, 0, 0, 0);
  const to = toOf(move);
  const piece = <i32>(move >> 22) & 31;
  const inHand = HELD_AT + (piece >> 4) * 8 * 20 + <i32>heldAt[ply];
  const dropped = dropOf(move);
  if (dropped != 0) return noteChange(inHand + dropped * 20, (piece << 7) | to, 0, 0);
  const left = (piece << 7) | fromOf(move);
  const arrived = ((piece + (promotionOf(move) << 3)) << 7) | to;
  const captured = <i32>(move >> 27);
  if (captured == 0) return noteChange(left, arrived, 0, 0);
  const held = (captured & 15) == KING ? 0 : inHand + handType(captured) * 20;
  return noteChange(left, arrived, (captured << 7) | to, held);
}
