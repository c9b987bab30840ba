import { fillKeys } from '../keys';
import { fromOf, MOVE_LIST, promotionOf, toOf } from '../moves';

/** Chess on bitboards: a1 = bit 0, h8 = bit 63. A piece is its type 1–6, plus 8 for Black. */
const PAWN: i32 = 1;
const KNIGHT: i32 = 2;
const BISHOP: i32 = 3;
const ROOK: i32 = 4;
const QUEEN: i32 = 5;
const KING: i32 = 6;

export const GAME_PLIES: i32 = 512;
/** Whether a repetition by perpetual check loses. */
export const PERPETUAL_LOSES: bool = false;

const pieces = new StaticArray<u64>(16);
const occupied = new StaticArray<u64>(2);
const board = new StaticArray<u8>(64);
export let side: i32 = 0;
let castling: i32 = 0;
let enPassant: i32 = -1;
let halfmoves: i32 = 0;
let key: u64 = 0;
let top: i32 = 0;

const undoMoves = new StaticArray<i32>(GAME_PLIES);
const undoStates = new StaticArray<i32>(GAME_PLIES);
const undoKeys = new StaticArray<u64>(GAME_PLIES);

const PIECE_KEYS = new StaticArray<u64>(16 * 64);
const CASTLING_KEYS = new StaticArray<u64>(16);
const EN_PASSANT_KEYS = new StaticArray<u64>(64);
const SIDE_KEY = new StaticArray<u64>(1);
const KEPT_RIGHTS = new StaticArray<u8>(64);

const KNIGHT_ATTACKS = new StaticArray<u64>(64);
const KING_ATTACKS = new StaticArray<u64>(64);
const PAWN_ATTACKS = new StaticArray<u64>(128);
/** Rays by direction: four that run up the board, then four that run down. */
const RAYS = new StaticArray<u64>(8 * 64);

// @ts-ignore: decorator
@inline function bit(square: i32): u64 {
  return (<u64>1) << (<u64>square);
}

function leap(square: i32, file: i32, rank: i32): u64 {
  const f = (square & 7) + file;
  const r = (square >> 3) + rank;
  return f >= 0 && f < 8 && r >= 0 && r < 8 ? bit(f | (r << 3)) : 0;
}

function ray(square: i32, file: i32, rank: i32): u64 {
  let result: u64 = 0;
  for (let i = 1; i < 8; i++) result |= leap(square, file * i, rank * i);
  return result;
}

export function initRules(): void {
  fillKeys(PIECE_KEYS);
  fillKeys(CASTLING_KEYS);
  fillKeys(EN_PASSANT_KEYS);
  fillKeys(SIDE_KEY);
  for (let s = 0; s < 64; s++) {
    KEPT_RIGHTS[s] = 15;
    for (let df = -2; df <= 2; df++)
      for (let dr = -2; dr <= 2; dr++) {
        const sum = df * df + dr * dr;
        if (sum == 5) KNIGHT_ATTACKS[s] |= leap(s, df, dr);
        if (sum == 1 || sum == 2) KING_ATTACKS[s] |= leap(s, df, dr);
      }
    PAWN_ATTACKS[s] = leap(s, -1, 1) | leap(s, 1, 1);
    PAWN_ATTACKS[64 + s] = leap(s, -1, -1) | leap(s, 1, -1);
    RAYS[s] = ray(s, 0, 1);
    RAYS[64 + s] = ray(s, 1, 0);
    RAYS[128 + s] = ray(s, 1, 1);
    RAYS[192 + s] = ray(s, -1, 1);
    RAYS[256 + s] = ray(s, 0, -1);
    RAYS[320 + s] = ray(s, -1, 0);
    RAYS[384 + s] = ray(s, 1, -1);
    RAYS[448 + s] = ray(s, -1, -1);
  }
  KEPT_RIGHTS[0] = 13;
  KEPT_RIGHTS[7] = 14;
  KEPT_RIGHTS[4] = 12;
  KEPT_RIGHTS[56] = 7;
  KEPT_RIGHTS[63] = 11;
  KEPT_RIGHTS[60] = 3;
  initPlacement();
}

// @ts-ignore: decorator
@inline function upward(direction: i32, square: i32, all: u64): u64 {
  const line = RAYS[(direction << 6) | square];
  const blockers = line & all;
  return blockers == 0 ? line : line ^ RAYS[(direction << 6) | <i32>ctz(blockers)];
}

// @ts-ignore: decorator
@inline function downward(direction: i32, square: i32, all: u64): u64 {
  const line = RAYS[(direction << 6) | square];
  const blockers = line & all;
  return blockers == 0 ? line : line ^ RAYS[(direction << 6) | (63 - <i32>clz(blockers))];
}

function rookAttacks(square: i32, all: u64): u64 {
  return (
    upward(0, square, all) | upward(1, square, all) | downward(4, square, all) | downward(5, square, all)
  );
}

function bishopAttacks(square: i32, all: u64): u64 {
  return (
    upward(2, square, all) | upward(3, square, all) | downward(6, square, all) | downward(7, square, all)
  );
}

function isAttacked(square: i32, by: i32): bool {
  const colour = by << 3;
  if ((PAWN_ATTACKS[((1 - by) << 6) | square] & pieces[PAWN | colour]) != 0) return true;
  if ((KNIGHT_ATTACKS[square] & pieces[KNIGHT | colour]) != 0) return true;
  if ((KING_ATTACKS[square] & pieces[KING | colour]) != 0) return true;
  const all = occupied[0] | occupied[1];
  const queens = pieces[QUEEN | colour];
  if ((bishopAttacks(square, all) & (pieces[BISHOP | colour] | queens)) != 0) return true;
  return (rookAttacks(square, all) & (pieces[ROOK | colour] | queens)) != 0;
}

export function inCheck(): bool {
  return isAttacked(<i32>ctz(pieces[KING | (side << 3)]), 1 - side);
}

export function clearPosition(): void {
  for (let i = 0; i < 16; i++) pieces[i] = 0;
  for (let i = 0; i < 64; i++) board[i] = 0;
  occupied[0] = 0;
  occupied[1] = 0;
  key = 0;
  top = 0;
  side = 0;
  castling = 0;
  enPassant = -1;
  halfmoves = 0;
  resetPlacement();
}

// @ts-ignore: decorator
@inline function place(square: i32, piece: i32): void {
  const mask = bit(square);
  pieces[piece] |= mask;
  occupied[piece >> 3] |= mask;
  board[square] = <u8>piece;
  key ^= PIECE_KEYS[(piece << 6) | square];
  addPlacement(piece, square, 1);
}

// @ts-ignore: decorator
@inline function lift(square: i32, piece: i32): void {
  const mask = bit(square);
  pieces[piece] &= ~mask;
  occupied[piece >> 3] &= ~mask;
  board[square] = 0;
  key ^= PIECE_KEYS[(piece << 6) | square];
  addPlacement(piece, square, -1);
}

export function putPiece(square: i32, piece: i32): void {
  place(square, piece);
}

/** Chess has no pieces in hand. */
export function putHand(owner: i32, type: i32, count: i32): void {}

export function setState(toMove: i32, rights: i32, passed: i32, count: i32): void {
  side = toMove;
  castling = rights;
  enPassant = passed;
  halfmoves = count;
  key ^= CASTLING_KEYS[rights];
  if (side == 1) key ^= SIDE_KEY[0];
  if (passed >= 0) key ^= EN_PASSANT_KEYS[passed];
}

export function currentKey(): u64 {
  return key;
}

/** Plays a pseudo-legal move; when it leaves the own king in check it is taken back and false returned. */
export function makeMove(move: i32): bool {
  const from = fromOf(move);
  const to = toOf(move);
  const piece = <i32>board[from];
  const captured = <i32>board[to];
  const promotion = promotionOf(move);
  const type = piece & 7;
  undoMoves[top] = move;
  undoStates[top] = captured | (castling << 4) | ((enPassant + 1) << 8) | (halfmoves << 16);
  undoKeys[top] = key;
  top++;
  const passed = enPassant;
  if (passed >= 0) key ^= EN_PASSANT_KEYS[passed];
  enPassant = -1;
  halfmoves++;
  if (captured != 0) {
    lift(to, captured);
    halfmoves = 0;
  }
  lift(from, piece);
  place(to, promotion != 0 ? promotion | (side << 3) : piece);
  if (type == PAWN) {
    halfmoves = 0;
    if (to == passed) lift(to ^ 8, PAWN | ((1 - side) << 3));
    else if ((from ^ to) == 16) {
      const middle = (from + to) >> 1;
      if ((PAWN_ATTACKS[(side << 6) | middle] & pieces[PAWN | ((1 - side) << 3)]) != 0) {
        enPassant = middle;
        key ^= EN_PASSANT_KEYS[middle];
      }
    }
  } else if (type == KING && (to - from == 2 || from - to == 2)) {
    const rook = ROOK | (side << 3);
    lift(to > from ? to + 1 : to - 2, rook);
    place((from + to) >> 1, rook);
  }
  const rights = castling & <i32>KEPT_RIGHTS[from] & <i32>KEPT_RIGHTS[to];
  if (rights != castling) {
    key ^= CASTLING_KEYS[castling] ^ CASTLING_KEYS[rights];
    castling = rights;
  }
  const king = <i32>ctz(pieces[KING | (side << 3)]);
  side = 1 - side;
  key ^= SIDE_KEY[0];
  if (isAttacked(king, side)) {
    undoMove();
    return false;
  }
  return true;
}

export function undoMove(): void {
  top--;
  const move = undoMoves[top];
  const state = undoStates[top];
  side = 1 - side;
  const from = fromOf(move);
  const to = toOf(move);
  const moved = <i32>board[to];
  const piece = promotionOf(move) != 0 ? PAWN | (side << 3) : moved;
  const captured = state & 15;
  castling = (state >> 4) & 15;
  enPassant = ((state >> 8) & 127) - 1;
  halfmoves = state >> 16;
  lift(to, moved);
  place(from, piece);
  if (captured != 0) place(to, captured);
  const type = piece & 7;
  if (type == PAWN && to == enPassant) place(to ^ 8, PAWN | ((1 - side) << 3));
  else if (type == KING && (to - from == 2 || from - to == 2)) {
    const rook = ROOK | (side << 3);
    lift((from + to) >> 1, rook);
    place(to > from ? to + 1 : to - 2, rook);
  }
  key = undoKeys[top];
}

export function makeNull(): void {
  undoMoves[top] = 0;
  undoStates[top] = (castling << 4) | ((enPassant + 1) << 8) | (halfmoves << 16);
  undoKeys[top] = key;
  top++;
  if (enPassant >= 0) key ^= EN_PASSANT_KEYS[enPassant];
  enPassant = -1;
  halfmoves = 0;
  side = 1 - side;
  key ^= SIDE_KEY[0];
}

export function undoNull(): void {
  top--;
  const state = undoStates[top];
  side = 1 - side;
  enPassant = ((state >> 8) & 127) - 1;
  halfmoves = state >> 16;
  key = undoKeys[top];
}

/** How many plies back a position could be the same as this one. */
export function reversiblePlies(): i32 {
  return halfmoves;
}

/** Drawn by the fifty-move rule (unless mate), or for want of material. */
export function isDrawn(): bool {
  if (halfmoves >= 100) return true;
  if ((pieces[1] | pieces[9] | pieces[4] | pieces[12] | pieces[5] | pieces[13]) != 0) return false;
  const knights = pieces[2] | pieces[10];
  const bishops = pieces[3] | pieces[11];
  if (knights != 0) return popcnt(knights | bishops) == 1;
  const dark: u64 = 0xaa55aa55aa55aa55;
  return (bishops & dark) == 0 || (bishops & ~dark) == 0;
}

/** Whether a null move may be tried: with pawns only, having to move is too often a burden. */
export function hasPieces(): bool {
  const colour = side << 3;
  return (occupied[side] & ~(pieces[PAWN | colour] | pieces[KING | colour])) != 0;
}

function addTargets(from: i32, targets: u64, end: i32): i32 {
  while (targets != 0) {
    MOVE_LIST[end++] = from | (<i32>ctz(targets) << 7);
    targets &= targets - 1;
  }
  return end;
}

function addPawnMoves(targets: u64, step: i32, end: i32): i32 {
  while (targets != 0) {
    const to = <i32>ctz(targets);
    targets &= targets - 1;
    const move = (to - step) | (to << 7);
    if (to < 8 || to > 55)
      for (let type = QUEEN; type >= KNIGHT; type--) MOVE_LIST[end++] = move | (type << 18);
    else MOVE_LIST[end++] = move;
  }
  return end;
}

const FILE_A: u64 = 0x0101010101010101;
const FILE_H: u64 = 0x8080808080808080;

/** Writes pseudo-legal moves from index `start` on (captures and promotions only, if so asked); returns the end. */
export function generate(start: i32, tacticalOnly: bool): i32 {
  let end = start;
  const own = occupied[side];
  const enemy = occupied[1 - side];
  const all = own | enemy;
  const targets = tacticalOnly ? enemy : ~own;
  const colour = side << 3;
  const pawns = pieces[PAWN | colour];
  const capturable = enPassant >= 0 ? enemy | bit(enPassant) : enemy;
  const lastRank: u64 = side == 0 ? 0xff00000000000000 : 0xff;
  if (side == 0) {
    const one = (pawns << 8) & ~all;
    end = addPawnMoves(((pawns & ~FILE_A) << 7) & capturable, 7, end);
    end = addPawnMoves(((pawns & ~FILE_H) << 9) & capturable, 9, end);
    end = addPawnMoves(tacticalOnly ? one & lastRank : one, 8, end);
    if (!tacticalOnly) end = addPawnMoves(((one & 0xff0000) << 8) & ~all, 16, end);
  } else {
    const one = (pawns >> 8) & ~all;
    end = addPawnMoves(((pawns & ~FILE_H) >> 7) & capturable, -7, end);
    end = addPawnMoves(((pawns & ~FILE_A) >> 9) & capturable, -9, end);
    end = addPawnMoves(tacticalOnly ? one & lastRank : one, -8, end);
    if (!tacticalOnly) end = addPawnMoves(((one & 0xff0000000000) >> 8) & ~all, -16, end);
  }
  for (let left = pieces[KNIGHT | colour]; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    end = addTargets(from, KNIGHT_ATTACKS[from] & targets, end);
  }
  for (let left = pieces[BISHOP | colour] | pieces[QUEEN | colour]; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    end = addTargets(from, bishopAttacks(from, all) & targets, end);
  }
  for (let left = pieces[ROOK | colour] | pieces[QUEEN | colour]; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    end = addTargets(from, rookAttacks(from, all) & targets, end);
  }
  const king = <i32>ctz(pieces[KING | colour]);
  end = addTargets(king, KING_ATTACKS[king] & targets, end);
  if (!tacticalOnly) end = addCastling(king, all, end);
  return end;
}

function addCastling(king: i32, all: u64, end: i32): i32 {
  const rights = side == 0 ? castling & 3 : castling >> 2;
  if (rights == 0 || isAttacked(king, 1 - side)) return end;
  if ((rights & 1) != 0 && (all & (bit(king + 1) | bit(king + 2))) == 0 && !isAttacked(king + 1, 1 - side))
    MOVE_LIST[end++] = king | ((king + 2) << 7);
  if (
    (rights & 2) != 0 &&
    (all & (bit(king - 1) | bit(king - 2) | bit(king - 3))) == 0 &&
    !isAttacked(king - 1, 1 - side)
  )
    MOVE_LIST[end++] = king | ((king - 2) << 7);
  return end;
}

export function isTactical(move: i32): bool {
  if (board[toOf(move)] != 0 || promotionOf(move) != 0) return true;
  return toOf(move) == enPassant && (board[fromOf(move)] & 7) == PAWN;
}

/** Hundredths of a pawn by type. */
const VALUES = new StaticArray<i32>(8);

/** What a tactical move wins at first sight, most valuable victim first. */
export function tacticalGain(move: i32): i32 {
  const victim = <i32>board[toOf(move)] & 7;
  const promotion = promotionOf(move);
  let gain = victim != 0 ? VALUES[victim] * 8 - VALUES[<i32>board[fromOf(move)] & 7] / 8 : 0;
  if (promotion != 0) gain += VALUES[promotion] * 8;
  if (gain == 0) gain = VALUES[PAWN] * 8;
  return gain;
}

/** The most that a capture can change the evaluation by, for pruning in quiescence. */
export function captureValue(move: i32): i32 {
  const promotion = promotionOf(move);
  const won = VALUES[<i32>board[toOf(move)] & 7];
  return won + (promotion != 0 ? VALUES[promotion] : won == 0 ? VALUES[PAWN] : 0);
}

export function movedPiece(move: i32): i32 {
  return <i32>board[fromOf(move)];
}

// Evaluation: material and placement, blended between middlegame and ending by the material left.

const MIDDLE = new StaticArray<i32>(16 * 64);
const ENDING = new StaticArray<i32>(16 * 64);
const PHASE = new StaticArray<i32>(8);
let middle: i32 = 0;
let ending: i32 = 0;
let phase: i32 = 0;
const FULL_PHASE: i32 = 24;

function centrality(square: i32): i32 {
  const file = square & 7;
  const rank = square >> 3;
  return min(file, 7 - file) + min(rank, 7 - rank);
}

/** Placement of a White piece, in hundredths of a pawn; `late`: in the ending. */
function placementOf(type: i32, square: i32, late: bool): i32 {
  const file = square & 7;
  const rank = square >> 3;
  const centre = centrality(square);
  if (type == PAWN) {
    const central = file == 3 || file == 4 ? 1 : 0;
    return late ? (rank - 1) * (rank - 1) * 4 : (rank - 1) * 4 + central * (rank == 3 ? 24 : rank == 4 ? 28 : -4);
  }
  if (type == KNIGHT) return late ? centre * 7 - 20 : centre * 10 - 30 - (rank == 0 ? 8 : 0);
  if (type == BISHOP) return late ? centre * 4 - 12 : centre * 5 - 14 - (rank == 0 ? 10 : 0);
  if (type == ROOK) {
    const seventh = rank == 6 ? 18 : 0;
    return late ? seventh : seventh + (file == 3 || file == 4 ? 8 : 0);
  }
  if (type == QUEEN) return late ? centre * 5 - 14 : centre * 2 - 6;
  if (late) return centre * 12 - 36;
  const sheltered = rank == 0 ? (file == 6 || file <= 2 ? 32 : file == 7 ? 20 : 0) : -rank * 16;
  return sheltered;
}

function initPlacement(): void {
  VALUES[PAWN] = 100;
  VALUES[KNIGHT] = 325;
  VALUES[BISHOP] = 335;
  VALUES[ROOK] = 510;
  VALUES[QUEEN] = 980;
  PHASE[KNIGHT] = 1;
  PHASE[BISHOP] = 1;
  PHASE[ROOK] = 2;
  PHASE[QUEEN] = 4;
  for (let type = PAWN; type <= KING; type++)
    for (let square = 0; square < 64; square++) {
      const early = VALUES[type] + placementOf(type, square, false);
      const late = VALUES[type] + placementOf(type, square, true) + (type == PAWN ? 15 : 0);
      MIDDLE[(type << 6) | square] = early;
      ENDING[(type << 6) | square] = late;
      MIDDLE[((type | 8) << 6) | (square ^ 56)] = -early;
      ENDING[((type | 8) << 6) | (square ^ 56)] = -late;
    }
}

function resetPlacement(): void {
  middle = 0;
  ending = 0;
  phase = 0;
}

// @ts-ignore: decorator
@inline function addPlacement(piece: i32, square: i32, sign: i32): void {
  middle += sign * MIDDLE[(piece << 6) | square];
  ending += sign * ENDING[(piece << 6) | square];
  phase += sign * PHASE[piece & 7];
}

/** A lone king is driven to the edge, and the kings brought together. */
function drivingBonus(strong: i32): i32 {
  const weak = <i32>ctz(pieces[KING | ((1 - strong) << 3)]);
  const own = <i32>ctz(pieces[KING | (strong << 3)]);
  const files = abs((weak & 7) - (own & 7));
  const ranks = abs((weak >> 3) - (own >> 3));
  return (6 - centrality(weak)) * 20 + (7 - max(files, ranks)) * 10;
}

/** Hundredths of a pawn from the view of the side to move. */
export function evaluate(): i32 {
  const share = min(phase, FULL_PHASE);
  let score = (middle * share + ending * (FULL_PHASE - share)) / FULL_PHASE;
  if (popcnt(pieces[BISHOP]) >= 2) score += 30;
  if (popcnt(pieces[BISHOP | 8]) >= 2) score -= 30;
  if (occupied[1] == pieces[KING | 8] && (pieces[PAWN] | pieces[KNIGHT]) == 0) score += drivingBonus(0);
  else if (occupied[0] == pieces[KING] && (pieces[PAWN | 8] | pieces[KNIGHT | 8]) == 0)
    score -= drivingBonus(1);
  return (side == 0 ? score : -score) + 8;
}
