import { fillKeys } from '../keys';
import { dropOf, fromOf, MOVE_LIST, promotionOf, toOf } from '../moves';

/**
 * Shogi on a board with a rim: square = 11 × file + rank, files and ranks 1–9 as in shogi. A piece is its type
 * (1 pawn … 7 gold, 8 king, promoted +8), plus 16 for White; 255 is the rim.
 */
const PAWN: i32 = 1;
const LANCE: i32 = 2;
const KNIGHT: i32 = 3;
const SILVER: i32 = 4;
const BISHOP: i32 = 5;
const ROOK: i32 = 6;
const GOLD: i32 = 7;
const KING: i32 = 8;
const RIM: i32 = 255;

export const GAME_PLIES: i32 = 512;
export const PERPETUAL_LOSES: bool = true;

const board = new StaticArray<u8>(128);
const hands = new StaticArray<i32>(16);
const kings = new StaticArray<i32>(2);
/** Unpromoted pawns by side and file. */
const pawnFiles = new StaticArray<u8>(32);
export let side: i32 = 0;
let key: u64 = 0;
let top: i32 = 0;

const undoMoves = new StaticArray<i32>(GAME_PLIES);
const undoCaptured = new StaticArray<i32>(GAME_PLIES);
const undoKeys = new StaticArray<u64>(GAME_PLIES);

const PIECE_KEYS = new StaticArray<u64>(32 * 128);
const HAND_KEYS = new StaticArray<u64>(16 * 20);
const SIDE_KEY = new StaticArray<u64>(1);

/** N, E, NE, NW, SE, SW, W, S as steps on the board; opposite directions add up to 7. */
const STEPS = new StaticArray<i32>(8);
/** By piece: bits of the directions in which it steps, and in which it slides. */
const STEP_MASK = new StaticArray<i32>(32);
const SLIDE_MASK = new StaticArray<i32>(32);

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
  fillKeys(PIECE_KEYS);
  fillKeys(HAND_KEYS);
  fillKeys(SIDE_KEY);
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
  initPlacement();
}

export function clearPosition(): void {
  for (let square = 0; square < 128; square++) {
    const file = square / 11;
    const rank = square % 11;
    board[square] = file >= 1 && file <= 9 && rank >= 1 && rank <= 9 ? 0 : <u8>RIM;
  }
  for (let i = 0; i < 16; i++) hands[i] = 0;
  for (let i = 0; i < 32; i++) pawnFiles[i] = 0;
  kings[0] = 0;
  kings[1] = 0;
  side = 0;
  key = 0;
  top = 0;
  placement = 0;
}

// @ts-ignore: decorator
@inline function place(square: i32, piece: i32): void {
  board[square] = <u8>piece;
  key ^= PIECE_KEYS[(piece << 7) | square];
  placement += PLACEMENT[(piece << 7) | square];
  if ((piece & 15) == PAWN) pawnFiles[((piece >> 4) << 4) | (square / 11)]++;
  else if ((piece & 15) == KING) kings[piece >> 4] = square;
}

// @ts-ignore: decorator
@inline function lift(square: i32, piece: i32): void {
  board[square] = 0;
  key ^= PIECE_KEYS[(piece << 7) | square];
  placement -= PLACEMENT[(piece << 7) | square];
  if ((piece & 15) == PAWN) pawnFiles[((piece >> 4) << 4) | (square / 11)]--;
}

// @ts-ignore: decorator
@inline function addHand(owner: i32, type: i32, change: i32): void {
  const index = (owner << 3) | type;
  const count = hands[index];
  key ^= HAND_KEYS[index * 20 + count] ^ HAND_KEYS[index * 20 + count + change];
  hands[index] = count + change;
  placement += owner == 0 ? change * HAND_VALUES[type] : -change * HAND_VALUES[type];
}

export function putPiece(square: i32, piece: i32): void {
  place(square, piece);
}

export function putHand(owner: i32, type: i32, count: i32): void {
  if (count > 0) addHand(owner, type, count);
}

export function setState(toMove: i32, rights: i32, passed: i32, count: i32): void {
  side = toMove;
  if (side == 1) key ^= SIDE_KEY[0];
}

export function currentKey(): u64 {
  return key;
}

function isAttacked(square: i32, by: i32): bool {
  for (let direction = 0; direction < 8; direction++) {
    const step = STEPS[direction];
    const towards = 1 << (7 - direction);
    let at = square + step;
    let piece = <i32>board[at];
    if (piece == RIM) continue;
    if (piece != 0) {
      if (piece >> 4 == by && (STEP_MASK[piece] & towards) != 0) return true;
      continue;
    }
    do {
      at += step;
      piece = board[at];
    } while (piece == 0);
    if (piece != RIM && piece >> 4 == by && (SLIDE_MASK[piece] & towards) != 0) return true;
  }
  const knight = KNIGHT | (by << 4);
  const behind = by == 0 ? 2 : -2;
  if (square + behind - 11 >= 0 && board[square + behind - 11] == knight) return true;
  return square + behind + 11 < 128 && board[square + behind + 11] == knight;
}

function kingAttacked(owner: i32): bool {
  const king = kings[owner];
  return king != 0 && isAttacked(king, 1 - owner);
}

export function inCheck(): bool {
  return kingAttacked(side);
}

/** Plays a pseudo-legal move; an illegal one is taken back and false returned. */
export function makeMove(move: i32): bool {
  const to = toOf(move);
  const dropped = dropOf(move);
  const captured = <i32>board[to];
  undoMoves[top] = move;
  undoCaptured[top] = captured;
  undoKeys[top] = key;
  top++;
  if (dropped != 0) {
    addHand(side, dropped, -1);
    place(to, dropped | (side << 4));
  } else {
    const from = fromOf(move);
    const piece = <i32>board[from];
    lift(from, piece);
    if (captured != 0) {
      lift(to, captured);
      if ((captured & 15) != KING) addHand(side, (captured & 15) > KING ? (captured & 7) : captured & 15, 1);
    }
    place(to, piece + (promotionOf(move) << 3));
  }
  side = 1 - side;
  key ^= SIDE_KEY[0];
  if (kingAttacked(1 - side) || (dropped == PAWN && givesCheckByPawn(to) && !hasLegalMove())) {
    undoMove();
    return false;
  }
  return true;
}

/** Whether the pawn just dropped attacks the king of the side that is now to move. */
function givesCheckByPawn(square: i32): bool {
  return square + (side == 1 ? -1 : 1) == kings[side];
}

/** Room for the moves that {@link hasLegalMove} tries, apart from those of the search. */
const REPLIES: i32 = 256 * 598;

function hasLegalMove(): bool {
  const end = generate(REPLIES, false);
  for (let i = REPLIES; i < end; i++)
    if (dropOf(MOVE_LIST[i]) != PAWN && makeMove(MOVE_LIST[i])) {
      undoMove();
      return true;
    }
  return false;
}

export function undoMove(): void {
  top--;
  const move = undoMoves[top];
  const captured = undoCaptured[top];
  side = 1 - side;
  const to = toOf(move);
  const dropped = dropOf(move);
  const moved = <i32>board[to];
  lift(to, moved);
  if (dropped != 0) addHand(side, dropped, 1);
  else {
    place(fromOf(move), moved - (promotionOf(move) << 3));
    if (captured != 0) {
      place(to, captured);
      if ((captured & 15) != KING) addHand(side, (captured & 15) > KING ? (captured & 7) : captured & 15, -1);
    }
  }
  key = undoKeys[top];
}

export function makeNull(): void {
  undoKeys[top] = key;
  undoMoves[top] = 0;
  top++;
  side = 1 - side;
  key ^= SIDE_KEY[0];
}

export function undoNull(): void {
  top--;
  side = 1 - side;
  key = undoKeys[top];
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
  const rank = square % 11;
  return owner == 0 ? rank : 10 - rank;
}

function addBoardMove(from: i32, to: i32, type: i32, tacticalOnly: bool, end: i32): i32 {
  const target = <i32>board[to];
  const capture = target != 0;
  const move = from | (to << 7);
  if (type <= ROOK) {
    const rank = farRank(to, side);
    if (rank <= 3 || farRank(from, side) <= 3) {
      if (capture || !tacticalOnly || type == PAWN || type >= BISHOP) MOVE_LIST[end++] = move | (1 << 18);
    }
    if (rank == 1 && (type == PAWN || type == LANCE || type == KNIGHT)) return end;
    if (rank == 2 && type == KNIGHT) return end;
  }
  if (capture || !tacticalOnly) MOVE_LIST[end++] = move;
  return end;
}

/** Writes pseudo-legal moves from index `start` on (captures and promotions only, if so asked); returns the end. */
export function generate(start: i32, tacticalOnly: bool): i32 {
  let end = start;
  for (let file = 11; file <= 99; file += 11)
    for (let from = file + 1; from <= file + 9; from++) {
      const piece = <i32>board[from];
      if (piece == 0 || piece >> 4 != side) continue;
      const type = piece & 15;
      if (type == KNIGHT) {
        const ahead = from + (side == 0 ? -2 : 2);
        for (let sideways = -11; sideways <= 11; sideways += 22) {
          const to = ahead + sideways;
          if (to < 0 || to > 127) continue;
          const target = <i32>board[to];
          if (target != RIM && (target == 0 || target >> 4 != side))
            end = addBoardMove(from, to, type, tacticalOnly, end);
        }
        continue;
      }
      const steps = STEP_MASK[piece];
      const slides = SLIDE_MASK[piece];
      for (let direction = 0; direction < 8; direction++) {
        if ((steps & (1 << direction)) == 0) continue;
        const step = STEPS[direction];
        const far = (slides & (1 << direction)) != 0;
        let to = from + step;
        for (;;) {
          const target = <i32>board[to];
          if (target == RIM || (target != 0 && target >> 4 == side)) break;
          end = addBoardMove(from, to, type, tacticalOnly, end);
          if (target != 0 || !far) break;
          to += step;
        }
      }
    }
  return tacticalOnly ? end : addDrops(end);
}

function addDrops(end: i32): i32 {
  for (let type = GOLD; type >= PAWN; type--) {
    if (hands[(side << 3) | type] == 0) continue;
    const least = type == KNIGHT ? 3 : type == PAWN || type == LANCE ? 2 : 1;
    const first = side == 0 ? least : 1;
    const last = side == 0 ? 9 : 10 - least;
    for (let file = 1; file <= 9; file++) {
      if (type == PAWN && pawnFiles[(side << 4) | file] != 0) continue;
      for (let to = file * 11 + first; to <= file * 11 + last; to++)
        if (board[to] == 0) MOVE_LIST[end++] = (to << 7) | (type << 14);
    }
  }
  return end;
}

export function isTactical(move: i32): bool {
  if (dropOf(move) != 0) return false;
  if (board[toOf(move)] != 0) return true;
  const type = <i32>board[fromOf(move)] & 15;
  return promotionOf(move) != 0 && (type == PAWN || type >= BISHOP);
}

/** Hundredths of a pawn by type, on the board and in hand. */
const VALUES = new StaticArray<i32>(16);
const HAND_VALUES = new StaticArray<i32>(8);

export function tacticalGain(move: i32): i32 {
  const victim = <i32>board[toOf(move)] & 15;
  const type = <i32>board[fromOf(move)] & 15;
  let gain = victim != 0 ? VALUES[victim] * 8 - VALUES[type] / 8 : 0;
  if (promotionOf(move) != 0) gain += (VALUES[type + 8] - VALUES[type]) * 8;
  return gain;
}

export function captureValue(move: i32): i32 {
  const victim = <i32>board[toOf(move)] & 15;
  const type = <i32>board[fromOf(move)] & 15;
  let value = victim == 0 ? 0 : VALUES[victim] + HAND_VALUES[victim > KING ? victim - 8 : victim & 7];
  if (promotionOf(move) != 0) value += VALUES[type + 8] - VALUES[type];
  return value;
}

export function movedPiece(move: i32): i32 {
  const dropped = dropOf(move);
  return dropped != 0 ? dropped | (side << 4) : <i32>board[fromOf(move)];
}

// Evaluation: material on board and in hand, placement, and the pieces around each king.

const PLACEMENT = new StaticArray<i32>(32 * 128);
let placement: i32 = 0;

/** Placement of a Black piece in hundredths of a pawn. */
function placementOf(type: i32, file: i32, rank: i32): i32 {
  const centre = 4 - abs(5 - file);
  const advance = 9 - rank;
  if (type == PAWN) return advance * 3 + (rank <= 4 ? 8 : 0);
  if (type == LANCE) return rank == 9 ? 0 : -6;
  if (type == KNIGHT) return rank == 9 ? 0 : centre * 2 - (rank <= 5 ? 4 : 0);
  if (type == SILVER) return centre * 4 + (rank <= 7 && rank >= 4 ? 14 : rank == 9 ? -12 : 4);
  if (type == GOLD) return centre * 3 + (rank == 8 ? 12 : rank == 9 ? -4 : rank == 7 ? 6 : -8);
  if (type == BISHOP) return centre * 2;
  if (type == ROOK) return rank <= 3 ? 20 : 0;
  if (type == KING) return rank == 9 ? (4 - centre) * 8 + 10 : rank == 8 ? (4 - centre) * 10 : -(9 - rank) * 20;
  return rank <= 5 ? centre * 4 + 10 : centre * 2;
}

function initPlacement(): void {
  VALUES[PAWN] = 100;
  VALUES[LANCE] = 260;
  VALUES[KNIGHT] = 290;
  VALUES[SILVER] = 430;
  VALUES[GOLD] = 490;
  VALUES[BISHOP] = 640;
  VALUES[ROOK] = 760;
  VALUES[PAWN + 8] = 420;
  VALUES[LANCE + 8] = 440;
  VALUES[KNIGHT + 8] = 450;
  VALUES[SILVER + 8] = 480;
  VALUES[BISHOP + 8] = 880;
  VALUES[ROOK + 8] = 1020;
  HAND_VALUES[PAWN] = 110;
  HAND_VALUES[LANCE] = 280;
  HAND_VALUES[KNIGHT] = 310;
  HAND_VALUES[SILVER] = 470;
  HAND_VALUES[GOLD] = 530;
  HAND_VALUES[BISHOP] = 700;
  HAND_VALUES[ROOK] = 820;
  for (let type = 1; type < 16; type++)
    for (let file = 1; file <= 9; file++)
      for (let rank = 1; rank <= 9; rank++) {
        const value = VALUES[type] + placementOf(type, file, rank);
        PLACEMENT[(type << 7) | (file * 11 + rank)] = value;
        PLACEMENT[((type | 16) << 7) | ((10 - file) * 11 + (10 - rank))] = -value;
      }
}

/** Defenders and attackers within two squares of the king of `owner`; positive is good for it. */
function kingSafety(owner: i32): i32 {
  const king = kings[owner];
  if (king == 0) return 0;
  const file = king / 11;
  const rank = king % 11;
  let safety = 0;
  let attackers = 0;
  for (let f = max(1, file - 2); f <= min(9, file + 2); f++)
    for (let r = max(1, rank - 2); r <= min(9, rank + 2); r++) {
      const piece = <i32>board[f * 11 + r];
      if (piece == 0) continue;
      const type = piece & 15;
      if (type == KING || type == PAWN) continue;
      const near = abs(f - file) <= 1 && abs(r - rank) <= 1;
      if (piece >> 4 == owner) {
        if (type == GOLD || type == SILVER || type > KING) safety += near ? 22 : 10;
      } else {
        attackers++;
        safety -= near ? 40 : 26;
      }
    }
  const enemy = (1 - owner) << 3;
  const reserves =
    hands[enemy | GOLD] + hands[enemy | SILVER] + hands[enemy | ROOK] + hands[enemy | BISHOP];
  return safety - attackers * (attackers * 8 + reserves * 12);
}

/** Hundredths of a pawn from the view of the side to move. */
export function evaluate(): i32 {
  const score = placement + kingSafety(0) - kingSafety(1);
  return (side == 0 ? score : -score) + 15;
}
