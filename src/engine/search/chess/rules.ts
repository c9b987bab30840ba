import { noteChange } from '../changes';
import { addAtRoot, resetFeatures } from '../features';
import { fillKeys } from '../keys';
import { bishopAttacks, initSliders, rookAttacks } from './sliders';
import { fromOf, GAME_PLIES, MOVE_LIST, promotionOf, QUIET, TACTICAL, toOf } from '../moves';

/** Chess on bitboards: a1 = bit 0, h8 = bit 63. A piece is its type 1–6, plus 8 for Black. */
export const PAWN: i32 = 1;
export const KNIGHT: i32 = 2;
export const BISHOP: i32 = 3;
export const ROOK: i32 = 4;
export const QUEEN: i32 = 5;
export const KING: i32 = 6;

/** Beyond this a game is decided: what counts is the mate, and nothing is left out on the strength of an evaluation. */
export const DECIDED: i32 = 1200;
/** Whether a repetition by perpetual check loses. */
export const PERPETUAL_LOSES: bool = false;
/** Whether a side without a legal move loses also where it is not in check. */
export const NO_MOVE_LOSES: bool = false;
/** Depth from which a node is searched a ply less where the table knows no move: only what the large table would know. */
export const UNGUIDED_FROM: i32 = 5;
/** Depth from which a move that the others do not come near is looked at more deeply. */
export const SINGULAR_FROM: i32 = 8;

/** What {@link moveIndex} can be: both sides, six types, 64 squares. */
export const MOVE_INDEXES: i32 = 2 * 6 * 64;

export const pieces = new StaticArray<u64>(16);
export const occupied = new StaticArray<u64>(2);
export const board = new StaticArray<u8>(64);
export let side: i32 = 0;
/** How many moves of the line have been played. */
export let top: i32 = 0;

/**
 * Of the position at each depth of the line: its key; the rights to castle (bits 0–3), one more than the square passed
 * by a pawn (4–10), and the halfmoves without capture or pawn move (16 on).
 */
export const keys = new StaticArray<u64>(GAME_PLIES + 1);
const states = new StaticArray<i32>(GAME_PLIES + 1);
const RIGHTS: i32 = 15;
const HALFMOVE: i32 = 1 << 16;
/** Of the same: own pieces whose moves need a look before they are safe; as long as that is all, nothing is known of it yet. */
const suspectsAt = new StaticArray<u64>(GAME_PLIES + 1);
const UNKNOWN: u64 = ~0;
/** Of the same, once known: pieces that give check, own pieces that are pinned. */
const checkersAt = new StaticArray<u64>(GAME_PLIES + 1);
const pinnedAt = new StaticArray<u64>(GAME_PLIES + 1);

/** The move played at each depth, with the piece that moved (bits 22–25), what it captured (26–29) and whether more than that changed (31). */
const played = new StaticArray<i32>(GAME_PLIES);
const MORE: i32 = 1 << 31;

// @ts-ignore: decorator
@inline function movedAt(ply: i32): i32 {
  return (played[ply] >> 22) & 15;
}

// @ts-ignore: decorator
@inline function capturedAt(ply: i32): i32 {
  return (played[ply] >> 26) & 15;
}

const PIECE_KEYS = new StaticArray<u64>(16 * 64);
const CASTLING_KEYS = new StaticArray<u64>(16);
/** By one more than the square; nothing for none. */
const EN_PASSANT_KEYS = new StaticArray<u64>(65);
const SIDE_KEY: u64 = 0x7c3f1a95d2e864b1;
const KEPT_RIGHTS = new StaticArray<u8>(64);
/** Where kings and rooks stand that may castle. */
const HOMES: u64 = 0x9100000000000091;

/** Features of a piece on a square, for either view (features.ts). Their placement: piece × 64 + square. */
export const FEATURES = new StaticArray<i32>(16 * 64);
export const FEATURE_COUNT: i32 = 768;

/** Squares on the lines of a rook and of a bishop, whatever stands in the way. */
const ROOK_RAYS = new StaticArray<u64>(64);
const BISHOP_RAYS = new StaticArray<u64>(64);
export const KNIGHT_ATTACKS = new StaticArray<u64>(64);
export const KING_ATTACKS = new StaticArray<u64>(64);
export const PAWN_ATTACKS = new StaticArray<u64>(128);
/** Squares strictly between two on a line, and the whole line through them; 0 where there is none. */
const BETWEEN = new StaticArray<u64>(64 * 64);
const LINES = new StaticArray<u64>(64 * 64);

// @ts-ignore: decorator
@inline export function bit(square: i32): u64 {
  return (<u64>1) << (<u64>square);
}

function leap(square: i32, file: i32, rank: i32): u64 {
  const f = (square & 7) + file;
  const r = (square >> 3) + rank;
  return f >= 0 && f < 8 && r >= 0 && r < 8 ? bit(f | (r << 3)) : 0;
}

export function initRules(): void {
  initSliders();
  fillKeys(PIECE_KEYS, 16 * 64);
  fillKeys(CASTLING_KEYS, 16);
  fillKeys(EN_PASSANT_KEYS, 65);
  EN_PASSANT_KEYS[0] = 0;
  for (let s = 0; s < 64; s++) {
    KEPT_RIGHTS[s] = 15;
    ROOK_RAYS[s] = rookAttacks(s, 0);
    BISHOP_RAYS[s] = bishopAttacks(s, 0);
    for (let df = -2; df <= 2; df++)
      for (let dr = -2; dr <= 2; dr++) {
        const sum = df * df + dr * dr;
        if (sum == 5) KNIGHT_ATTACKS[s] |= leap(s, df, dr);
        if (sum == 1 || sum == 2) KING_ATTACKS[s] |= leap(s, df, dr);
      }
    PAWN_ATTACKS[s] = leap(s, -1, 1) | leap(s, 1, 1);
    PAWN_ATTACKS[64 + s] = leap(s, -1, -1) | leap(s, 1, -1);
  }
  KEPT_RIGHTS[0] = 13;
  KEPT_RIGHTS[7] = 14;
  KEPT_RIGHTS[4] = 12;
  KEPT_RIGHTS[56] = 7;
  KEPT_RIGHTS[63] = 11;
  KEPT_RIGHTS[60] = 3;
  for (let from = 0; from < 64; from++)
    for (let to = 0; to < 64; to++) {
      const ends = bit(from) | bit(to);
      if (from == to) continue;
      if ((rookAttacks(from, 0) & bit(to)) != 0) {
        BETWEEN[(from << 6) | to] = rookAttacks(from, ends) & rookAttacks(to, ends);
        LINES[(from << 6) | to] = (rookAttacks(from, 0) & rookAttacks(to, 0)) | ends;
      } else if ((bishopAttacks(from, 0) & bit(to)) != 0) {
        BETWEEN[(from << 6) | to] = bishopAttacks(from, ends) & bishopAttacks(to, ends);
        LINES[(from << 6) | to] = (bishopAttacks(from, 0) & bishopAttacks(to, 0)) | ends;
      }
    }
  for (let type = PAWN; type <= KING; type++)
    for (let square = 0; square < 64; square++) {
      const own = ((type - 1) << 6) | square;
      const other = ((type + 5) << 6) | (square ^ 56);
      FEATURES[(type << 6) | square] = own | (other << 16);
      FEATURES[((type | 8) << 6) | (square ^ 56)] = other | (own << 16);
    }
}

function isAttackedThrough(square: i32, by: i32, all: u64): bool {
  const colour = by << 3;
  if ((PAWN_ATTACKS[((1 - by) << 6) | square] & pieces[PAWN | colour]) != 0) return true;
  if ((KNIGHT_ATTACKS[square] & pieces[KNIGHT | colour]) != 0) return true;
  if ((KING_ATTACKS[square] & pieces[KING | colour]) != 0) return true;
  const queens = pieces[QUEEN | colour];
  if ((bishopAttacks(square, all) & (pieces[BISHOP | colour] | queens)) != 0) return true;
  return (rookAttacks(square, all) & (pieces[ROOK | colour] | queens)) != 0;
}

function isAttacked(square: i32, by: i32): bool {
  return isAttackedThrough(square, by, occupied[0] | occupied[1]);
}

/** Finds what gives check and what is pinned, once for each position of the line. */
function study(): void {
  const king = <i32>ctz(pieces[KING | (side << 3)]);
  const colour = (1 - side) << 3;
  const all = occupied[0] | occupied[1];
  const straight = pieces[ROOK | colour] | pieces[QUEEN | colour];
  const slanted = pieces[BISHOP | colour] | pieces[QUEEN | colour];
  let checkers =
    (PAWN_ATTACKS[(side << 6) | king] & pieces[PAWN | colour]) |
    (KNIGHT_ATTACKS[king] & pieces[KNIGHT | colour]);
  let pinned: u64 = 0;
  let snipers = (ROOK_RAYS[king] & straight) | (BISHOP_RAYS[king] & slanted);
  for (; snipers != 0; snipers &= snipers - 1) {
    const sniper = <i32>ctz(snipers);
    const between = BETWEEN[(king << 6) | sniper] & all;
    if (between == 0) checkers |= bit(sniper);
    else if ((between & (between - 1)) == 0) pinned |= between;
  }
  checkersAt[top] = checkers;
  pinnedAt[top] = pinned;
  suspectsAt[top] = pinned | bit(king) | capturersInPassing();
}

/** Own pawns that may take in passing. */
// @ts-ignore: decorator
@inline function capturersInPassing(): u64 {
  const passed = enPassant();
  return passed < 0 ? 0 : PAWN_ATTACKS[((1 - side) << 6) | passed] & pieces[PAWN | (side << 3)];
}

// @ts-ignore: decorator
@inline function castling(): i32 {
  return states[top] & RIGHTS;
}

/** The square passed by a pawn that may be taken in passing; -1: none. */
// @ts-ignore: decorator
@inline function enPassant(): i32 {
  return ((states[top] >> 4) & 127) - 1;
}

// @ts-ignore: decorator
@inline function halfmoves(): i32 {
  return states[top] >> 16;
}

export function inCheck(): bool {
  if (suspectsAt[top] == UNKNOWN) study();
  return checkersAt[top] != 0;
}

export function clearPosition(): void {
  for (let i = 0; i < 16; i++) pieces[i] = 0;
  for (let i = 0; i < 64; i++) board[i] = 0;
  occupied[0] = 0;
  occupied[1] = 0;
  top = 0;
  side = 0;
  keys[0] = 0;
  states[0] = 0;
  suspectsAt[0] = UNKNOWN;
  resetFeatures();
}

// @ts-ignore: decorator
@inline function place(square: i32, piece: i32): void {
  const mask = bit(square);
  pieces[piece] |= mask;
  occupied[piece >> 3] |= mask;
  board[square] = <u8>piece;
}

// @ts-ignore: decorator
@inline function lift(square: i32, piece: i32): void {
  const mask = bit(square);
  pieces[piece] &= ~mask;
  occupied[piece >> 3] &= ~mask;
  board[square] = 0;
}

export function putPiece(square: i32, piece: i32): void {
  place(square, piece);
  keys[0] ^= PIECE_KEYS[(piece << 6) | square];
  addAtRoot((piece << 6) | square);
}

/** Chess has no pieces in hand. */
export function putHand(owner: i32, type: i32, count: i32): void {}

export function setState(toMove: i32, rights: i32, passed: i32, count: i32): void {
  side = toMove;
  states[0] = rights | ((passed + 1) << 4) | (count << 16);
  keys[0] ^= CASTLING_KEYS[rights] ^ EN_PASSANT_KEYS[passed + 1];
  if (side == 1) keys[0] ^= SIDE_KEY;
}

export function currentKey(): u64 {
  return keys[top];
}

/** Whether a pseudo-legal move leaves the own king safe; moves of others than the king must meet a check already. */
function isSafe(move: i32): bool {
  const from = fromOf(move);
  const to = toOf(move);
  const type = board[from] & 7;
  if (type == KING) {
    // a castling king's path was looked at when the move was made up
    return abs(to - from) == 2 || !isAttackedThrough(to, 1 - side, (occupied[0] | occupied[1]) ^ bit(from));
  }
  const king = <i32>ctz(pieces[KING | (side << 3)]);
  if (type == PAWN && to == enPassant()) {
    const all = ((occupied[0] | occupied[1]) ^ bit(from) ^ bit(to ^ 8)) | bit(to);
    const colour = (1 - side) << 3;
    const queens = pieces[QUEEN | colour];
    return (
      (rookAttacks(king, all) & (pieces[ROOK | colour] | queens)) == 0 &&
      (bishopAttacks(king, all) & (pieces[BISHOP | colour] | queens)) == 0
    );
  }
  if (suspectsAt[top] == UNKNOWN) study();
  return (pinnedAt[top] & bit(from)) == 0 || (LINES[(king << 6) | from] & bit(to)) != 0;
}

/** Plays a pseudo-legal move; one that leaves the own king in check is not played and false returned. */
export function makeMove(move: i32): bool {
  const from = fromOf(move);
  const to = toOf(move);
  const ply = top;
  const leaves = bit(from);
  if ((suspectsAt[ply] & leaves) != 0 && !isSafe(move)) return false;
  const mover = side;
  const arrives = bit(to);
  const piece = <i32>board[from];
  const captured = <i32>board[to];
  const state = states[ply];
  let record = move | (piece << 22) | (captured << 26);
  let next = (state & (~0xffff | RIGHTS)) + HALFMOVE;
  let key = keys[ply] ^ SIDE_KEY;
  if (captured != 0) {
    pieces[captured] ^= arrives;
    occupied[1 - mover] ^= arrives;
    key ^= PIECE_KEYS[(captured << 6) | to];
    next &= RIGHTS;
  }
  occupied[mover] ^= leaves | arrives;
  pieces[piece] ^= leaves | arrives;
  board[from] = 0;
  board[to] = <u8>piece;
  key ^= PIECE_KEYS[(piece << 6) | from] ^ PIECE_KEYS[(piece << 6) | to];
  if (promotionOf(move) != 0) {
    const promoted = promotionOf(move) | (mover << 3);
    pieces[piece] ^= arrives;
    pieces[promoted] ^= arrives;
    board[to] = <u8>promoted;
    key ^= PIECE_KEYS[(piece << 6) | to] ^ PIECE_KEYS[(promoted << 6) | to];
    record |= MORE;
  }
  if ((piece & 7) == PAWN) {
    next &= RIGHTS;
    if ((from ^ to) == 16) {
      const middle = (from + to) >> 1;
      if ((PAWN_ATTACKS[(mover << 6) | middle] & pieces[PAWN | ((1 - mover) << 3)]) != 0) {
        next |= (middle + 1) << 4;
        key ^= EN_PASSANT_KEYS[middle + 1];
      }
    }
  }
  const passed = (state >> 4) & 127;
  if (passed != 0) {
    key ^= EN_PASSANT_KEYS[passed];
    if (to + 1 == passed && (piece & 7) == PAWN) {
      const taken = PAWN | ((1 - mover) << 3);
      lift(to ^ 8, taken);
      key ^= PIECE_KEYS[(taken << 6) | (to ^ 8)];
      record |= MORE;
    }
  }
  if (((leaves | arrives) & HOMES) != 0 && (state & RIGHTS) != 0) {
    const rights = state & RIGHTS;
    const kept = rights & <i32>KEPT_RIGHTS[from] & <i32>KEPT_RIGHTS[to];
    key ^= CASTLING_KEYS[rights] ^ CASTLING_KEYS[kept];
    next ^= rights ^ kept;
    if ((piece & 7) == KING && abs(to - from) == 2) {
      const rook = ROOK | (mover << 3);
      const corner = to > from ? to + 1 : to - 2;
      const middle = (from + to) >> 1;
      lift(corner, rook);
      place(middle, rook);
      key ^= PIECE_KEYS[(rook << 6) | corner] ^ PIECE_KEYS[(rook << 6) | middle];
      record |= MORE;
    }
  }
  played[ply] = record;
  keys[ply + 1] = key;
  states[ply + 1] = next;
  suspectsAt[ply + 1] = UNKNOWN;
  top = ply + 1;
  side = 1 - mover;
  return true;
}

export function undoMove(): void {
  const ply = top - 1;
  const mover = 1 - side;
  top = ply;
  side = mover;
  const record = played[ply];
  const from = fromOf(record);
  const to = toOf(record);
  const piece = (record >> 22) & 15;
  const captured = (record >> 26) & 15;
  const leaves = bit(from);
  const arrives = bit(to);
  pieces[piece] ^= leaves | arrives;
  occupied[mover] ^= leaves | arrives;
  board[from] = <u8>piece;
  board[to] = <u8>captured;
  if (captured != 0) {
    pieces[captured] ^= arrives;
    occupied[1 - mover] ^= arrives;
  }
  if (record >= 0) return;
  const promotion = promotionOf(record);
  if (promotion != 0) {
    pieces[piece] ^= arrives;
    pieces[promotion | (mover << 3)] ^= arrives;
  } else if ((piece & 7) == PAWN) place(to ^ 8, PAWN | ((1 - mover) << 3));
  else {
    const rook = ROOK | (mover << 3);
    lift((from + to) >> 1, rook);
    place(to > from ? to + 1 : to - 2, rook);
  }
}

export function makeNull(): void {
  const state = states[top];
  played[top] = 0;
  keys[top + 1] = keys[top] ^ SIDE_KEY ^ EN_PASSANT_KEYS[(state >> 4) & 127];
  states[top + 1] = (state & (~0xffff | RIGHTS)) + HALFMOVE;
  top++;
  suspectsAt[top] = UNKNOWN;
  side = 1 - side;
}

export function undoNull(): void {
  top--;
  side = 1 - side;
}

/** How many plies back a position could be the same as this one. */
export function reversiblePlies(): i32 {
  return halfmoves();
}

/** Drawn by the fifty-move rule (unless mate), or for want of material. */
export function isDrawn(): bool {
  if (halfmoves() >= 100) return true;
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

/** In chess no move is left out. */
export function leaveOutPointless(yes: bool): void {}
// @ts-ignore: decorator
@inline export function isPointlessMove(move: i32): bool {
  return false;
}

/**
 * Writes pseudo-legal moves from index `start` on and returns the end: {@link TACTICAL} (captures and promotions),
 * {@link QUIET} or both. In check, only moves that may answer it.
 */
export function generate(start: i32, wanted: i32): i32 {
  if (suspectsAt[top] == UNKNOWN) study();
  let end = start;
  const own = occupied[side];
  const enemy = occupied[1 - side];
  const all = own | enemy;
  const colour = side << 3;
  const king = <i32>ctz(pieces[KING | colour]);
  const checkers = checkersAt[top];
  const tactical = (wanted & TACTICAL) != 0;
  const quiet = (wanted & QUIET) != 0;
  const reached = (tactical ? enemy : 0) | (quiet ? ~all : 0);
  end = addTargets(king, KING_ATTACKS[king] & reached, end);
  let answers: u64 = ~0;
  if (checkers != 0) {
    if ((checkers & (checkers - 1)) != 0) return end;
    answers = checkers | BETWEEN[(king << 6) | <i32>ctz(checkers)];
  } else if (quiet) end = addCastling(king, all, end);
  const targets = reached & answers;
  const pawns = pieces[PAWN | colour];
  const lastRank: u64 = side == 0 ? 0xff00000000000000 : 0xff;
  // a pawn that gave check by its double step is taken in passing
  const passed: u64 = enPassant() < 0 ? 0 : bit(enPassant());
  const answersByPassing = passed != 0 && (answers & (passed | bit(enPassant() ^ 8))) != 0 ? passed : 0;
  const capturable = tactical ? (enemy & answers) | answersByPassing : 0;
  const steps = (quiet ? ~lastRank : 0) | (tactical ? lastRank : 0);
  if (side == 0) {
    const one = (pawns << 8) & ~all;
    end = addPawnMoves(((pawns & ~FILE_A) << 7) & capturable, 7, end);
    end = addPawnMoves(((pawns & ~FILE_H) << 9) & capturable, 9, end);
    end = addPawnMoves(one & steps & answers, 8, end);
    if (quiet) end = addPawnMoves(((one & 0xff0000) << 8) & ~all & answers, 16, end);
  } else {
    const one = (pawns >> 8) & ~all;
    end = addPawnMoves(((pawns & ~FILE_H) >> 7) & capturable, -7, end);
    end = addPawnMoves(((pawns & ~FILE_A) >> 9) & capturable, -9, end);
    end = addPawnMoves(one & steps & answers, -8, end);
    if (quiet) end = addPawnMoves(((one & 0xff0000000000) >> 8) & ~all & answers, -16, end);
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
  return end;
}

/** The same: in chess all moves are of pieces on the board. */
export function generateBoardMoves(start: i32, wanted: i32): i32 {
  return generate(start, wanted);
}

/** Nothing is dropped in chess. */
export function generateDropChecks(start: i32): i32 {
  return start;
}

/** By what a position is known again: nothing is in hand in chess. */
export function boardKey(): u64 {
  return currentKey();
}

export function packedHand(owner: i32): u32 {
  return 0;
}

export function handBefore(move: i32, after: u32): u32 {
  return 0;
}

export function heldWhereNone(owner: i32, hand: u32): u32 {
  return 0;
}

export function canBeMetBetween(): bool {
  return false;
}

/** Asked only of drops. */
export function isBehind(square: i32, other: i32): bool {
  return false;
}

/**
 * Writes quiet moves by which a piece gives check from where it arrives.
 * @param near only checks that can't be met by a piece put between
 */
export function generateChecks(start: i32, near: bool): i32 {
  let end = start;
  const colour = side << 3;
  const all = occupied[0] | occupied[1];
  const king = <i32>ctz(pieces[KING | ((1 - side) << 3)]);
  const free = near ? KING_ATTACKS[king] & ~all : ~all;
  const straight = rookAttacks(king, all) & free;
  const slanted = bishopAttacks(king, all) & free;
  for (let left = pieces[KNIGHT | colour]; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    end = addTargets(from, KNIGHT_ATTACKS[from] & KNIGHT_ATTACKS[king] & ~all, end);
  }
  for (let left = pieces[BISHOP | colour]; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    end = addTargets(from, bishopAttacks(from, all) & slanted, end);
  }
  for (let left = pieces[ROOK | colour]; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    end = addTargets(from, rookAttacks(from, all) & straight, end);
  }
  for (let left = pieces[QUEEN | colour]; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    const reach = rookAttacks(from, all) | bishopAttacks(from, all);
    end = addTargets(from, reach & (straight | slanted), end);
  }
  return end;
}

/** Whether a move from elsewhere (the table, another branch) could have been generated here. */
export function isPseudoLegal(move: i32): bool {
  const from = fromOf(move);
  const to = toOf(move);
  if (move >> 22 != 0 || from > 63 || to > 63 || ((move >> 14) & 15) != 0) return false;
  const piece = <i32>board[from];
  if (piece == 0 || piece >> 3 != side) return false;
  const type = piece & 7;
  const all = occupied[0] | occupied[1];
  const target = bit(to);
  if ((occupied[side] & target) != 0) return false;
  const promotion = promotionOf(move);
  if (suspectsAt[top] == UNKNOWN) study();
  const checkers = checkersAt[top];
  if (type == KING) {
    if (promotion != 0) return false;
    if ((KING_ATTACKS[from] & target) != 0) return true;
    if (checkers != 0 || abs(to - from) != 2) return false;
    const end = addCastling(from, all, SPARE_MOVES);
    for (let i = SPARE_MOVES; i < end; i++) if (MOVE_LIST[i] == move) return true;
    return false;
  }
  if (checkers != 0) {
    if ((checkers & (checkers - 1)) != 0) return false;
    const king = <i32>ctz(pieces[KING | (side << 3)]);
    const answers = checkers | BETWEEN[(king << 6) | <i32>ctz(checkers)];
    const passes = type == PAWN && to == enPassant() && (answers & bit(to ^ 8)) != 0;
    if ((answers & target) == 0 && !passes) return false;
  }
  if (type == PAWN) {
    const last = to < 8 || to > 55;
    if (last ? promotion < KNIGHT || promotion > QUEEN : promotion != 0) return false;
    if ((PAWN_ATTACKS[(side << 6) | from] & target) != 0) return (occupied[1 - side] & target) != 0 || to == enPassant();
    const step = side == 0 ? 8 : -8;
    if ((all & target) != 0) return false;
    if (to == from + step) return true;
    return to == from + 2 * step && from >> 3 == (side == 0 ? 1 : 6) && (all & bit(from + step)) == 0;
  }
  if (promotion != 0) return false;
  if (type == KNIGHT) return (KNIGHT_ATTACKS[from] & target) != 0;
  const line = LINES[(from << 6) | to];
  if (line == 0 || (BETWEEN[(from << 6) | to] & all) != 0) return false;
  const straight = ((from ^ to) & 7) == 0 || ((from ^ to) & 56) == 0;
  return type == QUEEN || (type == ROOK) == straight;
}

/** Room in the list that no ply of a search reaches. */
const SPARE_MOVES: i32 = 256 * 599;

function addCastling(king: i32, all: u64, end: i32): i32 {
  const rights = side == 0 ? castling() & 3 : castling() >> 2;
  if ((rights & 1) != 0 && (all & (bit(king + 1) | bit(king + 2))) == 0 && isPathSafe(king + 1, king + 2))
    MOVE_LIST[end++] = king | ((king + 2) << 7);
  if (
    (rights & 2) != 0 &&
    (all & (bit(king - 1) | bit(king - 2) | bit(king - 3))) == 0 &&
    isPathSafe(king - 1, king - 2)
  )
    MOVE_LIST[end++] = king | ((king - 2) << 7);
  return end;
}

function isPathSafe(beside: i32, target: i32): bool {
  return !isAttacked(beside, 1 - side) && !isAttacked(target, 1 - side);
}

export function isTactical(move: i32): bool {
  if (board[toOf(move)] != 0 || promotionOf(move) != 0) return true;
  return toOf(move) == enPassant() && (board[fromOf(move)] & 7) == PAWN;
}

/** Hundredths of a pawn by type, for exchanges and the order of moves. */
export const VALUES = StaticArray.fromArray<i32>([0, 100, 325, 335, 510, 980, 0, 0]);

/** What a tactical move wins at first sight. */
export function tacticalGain(move: i32): i32 {
  const promotion = promotionOf(move);
  const won = VALUES[<i32>board[toOf(move)] & 7];
  return won + (promotion != 0 ? VALUES[promotion] - 100 : won == 0 ? 100 : 0);
}

/** Type of the piece that a move captures; 0: none. */
export function capturedType(move: i32): i32 {
  return <i32>board[toOf(move)] & 7;
}

/** A number for the side, the piece and where it goes, below {@link MOVE_INDEXES}. */
export function moveIndex(move: i32): i32 {
  const piece = <i32>board[fromOf(move)];
  return ((piece >> 3) * 6 + (piece & 7) - 1) * 64 + toOf(move);
}

/** The square of the cheapest piece of a side that attacks a square where those of `all` are left; -1: none. */
function cheapestAttacker(square: i32, by: i32, all: u64): i32 {
  const colour = by << 3;
  const pawns = PAWN_ATTACKS[((1 - by) << 6) | square] & pieces[PAWN | colour] & all;
  if (pawns != 0) return <i32>ctz(pawns);
  const knights = KNIGHT_ATTACKS[square] & pieces[KNIGHT | colour] & all;
  if (knights != 0) return <i32>ctz(knights);
  const slanted = bishopAttacks(square, all) & all;
  const bishops = slanted & pieces[BISHOP | colour];
  if (bishops != 0) return <i32>ctz(bishops);
  const straight = rookAttacks(square, all) & all;
  const rooks = straight & pieces[ROOK | colour];
  if (rooks != 0) return <i32>ctz(rooks);
  const queens = (slanted | straight) & pieces[QUEEN | colour];
  if (queens != 0) return <i32>ctz(queens);
  const king = KING_ATTACKS[square] & pieces[KING | colour];
  return king != 0 ? <i32>ctz(king) : -1;
}

/** Whether the exchanges on the target of a move leave at least `least` hundredths of a pawn (static exchange evaluation). */
export function winsAtLeast(move: i32, least: i32): bool {
  const from = fromOf(move);
  const to = toOf(move);
  const moved = promotionOf(move) != 0 ? promotionOf(move) : <i32>board[from] & 7;
  let balance = (isTactical(move) ? tacticalGain(move) : 0) - least;
  if (balance < 0) return false;
  if (moved == KING) return true;
  balance -= VALUES[moved];
  if (balance >= 0) return true;
  let all = ((occupied[0] | occupied[1]) ^ bit(from)) | bit(to);
  let turn = 1 - side;
  for (;;) {
    const attacker = cheapestAttacker(to, turn, all);
    if (attacker < 0) break;
    const type = <i32>board[attacker] & 7;
    turn = 1 - turn;
    if (type == KING) {
      // a king takes part only where nothing takes it back
      if (cheapestAttacker(to, turn, all) >= 0) turn = 1 - turn;
      break;
    }
    balance = -balance - 1 - VALUES[type];
    if (balance >= 0) break;
    all ^= bit(attacker);
  }
  return turn != side;
}

/** Which of the network's four outputs fits: by the number of pieces. */
export function outputBucket(): i32 {
  return min(3, (<i32>popcnt(occupied[0] | occupied[1]) - 1) >> 3);
}

/** Notes what the move at a ply of the line added and dropped. */
export function noteChanges(ply: i32): void {
  const move = played[ply];
  if (move == 0) return noteChange(0, 0, 0, 0);
  const from = fromOf(move);
  const to = toOf(move);
  const piece = movedAt(ply);
  const mover = piece & 8;
  const captured = capturedAt(ply);
  const promotion = promotionOf(move);
  const dropped = (piece << 6) | from;
  const added = ((promotion != 0 ? promotion | mover : piece) << 6) | to;
  if (captured != 0) return noteChange(dropped, added, (captured << 6) | to, 0);
  if (move >= 0 || promotion != 0) return noteChange(dropped, added, 0, 0);
  if ((piece & 7) == PAWN) return noteChange(dropped, added, ((PAWN | (mover ^ 8)) << 6) | (to ^ 8), 0);
  const rook = (ROOK | mover) << 6;
  return noteChange(dropped, added, rook | (to > from ? to + 1 : to - 2), rook | ((from + to) >> 1));
}
