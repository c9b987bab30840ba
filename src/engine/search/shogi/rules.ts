import {
  addAtRoot,
  bringForward,
  forgetChanges,
  hiddenAt,
  noteAdded,
  noteDropped,
  resetFeatures,
} from '../features';
import { fillKeys } from '../keys';
import { dropOf, fromOf, MOVE_LIST, promotionOf, QUIET, TACTICAL, toOf } from '../moves';

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


export const GAME_PLIES: i32 = 512;
export const PERPETUAL_LOSES: bool = true;
/** What {@link moveIndex} can be: both sides, eleven ways to move, 81 squares. */
export const MOVE_INDEXES: i32 = 2 * 11 * 81;

export const board = new StaticArray<u8>(128);
export const hands = new StaticArray<i32>(16);
export const kings = new StaticArray<i32>(2);
/** The squares that each side stands on, as bits: files 1–7 in one word, 8 and 9 in the other. */
export const standing = new StaticArray<u64>(4);
/** By square: its number 0–80, its bit, its word and its file; by word and bit: the square. */
export const NUMBER = new StaticArray<i32>(128);
const BIT = new StaticArray<u64>(128);
const WORD = new StaticArray<i32>(128);
export const FILE = new StaticArray<u8>(128);
/** By side and square: the rank as that side counts it, 1 the farthest. */
const FAR_RANK = new StaticArray<u8>(256);
const SQUARES = new StaticArray<i32>(128);
/** Direction from one square to another, or 8 where they are on no line. */
const DIRECTION = new StaticArray<u8>(128 * 128);
/** By side and type: the squares where it may be dropped, in two words. */
const DROPPABLE = new StaticArray<u64>(32);
const FILE_BITS = new StaticArray<u64>(20);

/** Of the position at each depth of the line: what gives check and where a check can be met, and what is pinned; and which of it is known. */
const checkersAt = new StaticArray<i32>(GAME_PLIES + 1);
const answersAt = new StaticArray<u64>(2 * (GAME_PLIES + 1));
const pinnedAt = new StaticArray<u64>(2 * (GAME_PLIES + 1));
const stateAt = new StaticArray<u8>(GAME_PLIES + 1);
const CHECKS_KNOWN: u8 = 1;
const LAYER_KNOWN: u8 = 2;

/** Features of a piece on a square, and of one more in hand, for either view; see features.ts. */
const FEATURES = new StaticArray<i32>(32 * 128);
const HAND_FEATURES = new StaticArray<i32>(16 * 20);
export const FEATURE_COUNT: i32 = 2 * 14 * 81 + 2 * 38;

/** Unpromoted pawns by side and file. */
const pawnFiles = new StaticArray<u8>(32);
export let side: i32 = 0;
let key: u64 = 0;
let top: i32 = 0;

const undoMoves = new StaticArray<i32>(GAME_PLIES);
const undoCaptured = new StaticArray<i32>(GAME_PLIES);
/** The piece that moved, and how many were held of what was dropped (before) or captured (after). */
const undoPieces = new StaticArray<u8>(GAME_PLIES);
const undoHeld = new StaticArray<u8>(GAME_PLIES);
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
  fillKeys(PIECE_KEYS, 32 * 128);
  fillKeys(HAND_KEYS, 16 * 20);
  fillKeys(SIDE_KEY, 1);
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
  for (let file = 1; file <= 9; file++)
    for (let rank = 1; rank <= 9; rank++) {
      const square = file * 11 + rank;
      const number = (file - 1) * 9 + rank - 1;
      NUMBER[square] = number;
      FILE[square] = <u8>file;
      FAR_RANK[square] = <u8>rank;
      FAR_RANK[128 | square] = <u8>(10 - rank);
      WORD[square] = number < 63 ? 0 : 1;
      BIT[square] = (<u64>1) << <u64>(number < 63 ? number : number - 63);
      SQUARES[number < 63 ? number : number + 1] = square;
      FILE_BITS[(file << 1) | WORD[square]] |= BIT[square];
      for (let owner = 0; owner < 2; owner++)
        for (let type = PAWN; type <= GOLD; type++) {
          const least = type == KNIGHT ? 3 : type == PAWN || type == LANCE ? 2 : 1;
          if (farRank(square, owner) >= least)
            DROPPABLE[(owner << 4) | (type << 1) | WORD[square]] |= BIT[square];
        }
    }
  for (let i = 0; i < 128 * 128; i++) DIRECTION[i] = 8;
  for (let file = 1; file <= 9; file++)
    for (let rank = 1; rank <= 9; rank++)
      for (let direction = 0; direction < 8; direction++) {
        const from = file * 11 + rank;
        for (let to = from + STEPS[direction]; isOnBoard(to); to += STEPS[direction])
          DIRECTION[(from << 7) | to] = <u8>direction;
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
      const square = SQUARES[number < 63 ? number : number + 1];
      const turned = SQUARES[80 - number < 63 ? 80 - number : 81 - number];
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
      HAND_FEATURES[type * 20 + count] = next | ((next + 38) << 16);
      HAND_FEATURES[(8 + type) * 20 + count] = (next + 38) | (next << 16);
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
  for (let i = 0; i < 32; i++) pawnFiles[i] = 0;
  kings[0] = 0;
  kings[1] = 0;
  side = 0;
  key = 0;
  top = 0;
  for (let i = 0; i < 4; i++) standing[i] = 0;
  stateAt[0] = LAYER_KNOWN;
  resetFeatures();
}

// @ts-ignore: decorator
@inline function place(square: i32, piece: i32): void {
  board[square] = <u8>piece;
  key ^= PIECE_KEYS[(piece << 7) | square];
  standing[((piece >> 4) << 1) | WORD[square]] ^= BIT[square];
  if ((piece & 15) == PAWN) pawnFiles[((piece >> 4) << 4) | FILE[square]]++;
  else if ((piece & 15) == KING) kings[piece >> 4] = square;
}

// @ts-ignore: decorator
@inline function addHand(owner: i32, type: i32, change: i32): void {
  const index = (owner << 3) | type;
  const count = hands[index];
  key ^= HAND_KEYS[index * 20 + count] ^ HAND_KEYS[index * 20 + count + change];
  hands[index] = count + change;
}

export function putPiece(square: i32, piece: i32): void {
  place(square, piece);
  addAtRoot(FEATURES[(piece << 7) | square]);
}

export function putHand(owner: i32, type: i32, count: i32): void {
  if (count == 0) return;
  addHand(owner, type, count);
  for (let i = 1; i <= count; i++) addAtRoot(HAND_FEATURES[((owner << 3) | type) * 20 + i]);
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

/** Finds what gives check, where it can be met, and what is pinned, once for each position of the line. */
function study(): void {
  stateAt[top] |= CHECKS_KNOWN;
  checkersAt[top] = 0;
  pinnedAt[top << 1] = 0;
  pinnedAt[(top << 1) | 1] = 0;
  answersAt[top << 1] = 0;
  answersAt[(top << 1) | 1] = 0;
  const king = kings[side];
  if (king == 0) return;
  const other = 1 - side;
  for (let direction = 0; direction < 8; direction++) {
    const step = STEPS[direction];
    const towards = 1 << (7 - direction);
    let at = king + step;
    let piece = <i32>board[at];
    if (piece == RIM) continue;
    if (piece != 0 && piece >> 4 == other && (STEP_MASK[piece] & towards) != 0) {
      addChecker(at);
      continue;
    }
    while (piece == 0) {
      at += step;
      piece = board[at];
    }
    if (piece == RIM) continue;
    if (piece >> 4 == other) {
      if ((SLIDE_MASK[piece] & towards) == 0) continue;
      addChecker(at);
      for (let between = king + step; between != at; between += step)
        answersAt[(top << 1) | WORD[between]] |= BIT[between];
      continue;
    }
    const shield = at;
    do {
      at += step;
      piece = board[at];
    } while (piece == 0);
    if (piece != RIM && piece >> 4 == other && (SLIDE_MASK[piece] & towards) != 0)
      pinnedAt[(top << 1) | WORD[shield]] |= BIT[shield];
  }
  const knight = KNIGHT | (other << 4);
  const ahead = king + (side == 0 ? -2 : 2);
  if (ahead - 11 >= 0 && board[ahead - 11] == knight) addChecker(ahead - 11);
  if (ahead + 11 < 128 && board[ahead + 11] == knight) addChecker(ahead + 11);
}

function addChecker(square: i32): void {
  checkersAt[top]++;
  answersAt[(top << 1) | WORD[square]] |= BIT[square];
}

export function inCheck(): bool {
  if ((stateAt[top] & CHECKS_KNOWN) == 0) study();
  return checkersAt[top] != 0;
}

/** Whether a pseudo-legal move leaves the own king safe; moves of others than the king must meet a check already. */
function isSafe(move: i32): bool {
  const king = kings[side];
  if (king == 0 || dropOf(move) != 0) return true;
  const from = fromOf(move);
  if (from == king) {
    const piece = board[from];
    board[from] = 0;
    const safe = !isAttacked(toOf(move), 1 - side);
    board[from] = piece;
    return safe;
  }
  if ((stateAt[top] & CHECKS_KNOWN) == 0) study();
  return (
    (pinnedAt[(top << 1) | WORD[from]] & BIT[from]) == 0 ||
    DIRECTION[(king << 7) | from] == DIRECTION[(king << 7) | toOf(move)]
  );
}

/** Plays a pseudo-legal move; an illegal one is not played and false returned. */
export function makeMove(move: i32): bool {
  if (!isSafe(move)) return false;
  const to = toOf(move);
  const dropped = dropOf(move);
  const captured = <i32>board[to];
  undoMoves[top] = move;
  undoCaptured[top] = captured;
  undoKeys[top] = key;
  top++;
  stateAt[top] = 0;
  if (dropped != 0) {
    undoHeld[top - 1] = <u8>hands[(side << 3) | dropped];
    undoPieces[top - 1] = <u8>(dropped | (side << 4));
    addHand(side, dropped, -1);
    place(to, dropped | (side << 4));
  } else {
    const from = fromOf(move);
    const piece = <i32>board[from];
    undoPieces[top - 1] = <u8>piece;
    const placed = piece + (promotionOf(move) << 3);
    const type = piece & 15;
    board[from] = 0;
    board[to] = <u8>placed;
    key ^= PIECE_KEYS[(piece << 7) | from] ^ PIECE_KEYS[(placed << 7) | to];
    standing[(side << 1) | WORD[from]] ^= BIT[from];
    standing[(side << 1) | WORD[to]] ^= BIT[to];
    if (type == PAWN) {
      pawnFiles[(side << 4) | FILE[from]]--;
      if (placed == piece) pawnFiles[(side << 4) | FILE[to]]++;
    } else if (type == KING) kings[side] = to;
    if (captured != 0) {
      key ^= PIECE_KEYS[(captured << 7) | to];
      standing[((1 - side) << 1) | WORD[to]] ^= BIT[to];
      if ((captured & 15) == PAWN) pawnFiles[((1 - side) << 4) | FILE[to]]--;
      if ((captured & 15) != KING) {
        const type = handType(captured);
        addHand(side, type, 1);
        undoHeld[top - 1] = <u8>hands[(side << 3) | type];
      }
    }
  }
  side = 1 - side;
  key ^= SIDE_KEY[0];
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
  top--;
  const move = undoMoves[top];
  const piece = <i32>undoPieces[top];
  side = 1 - side;
  const to = toOf(move);
  const dropped = dropOf(move);
  const placed = <i32>board[to];
  key = undoKeys[top];
  standing[(side << 1) | WORD[to]] ^= BIT[to];
  if ((placed & 15) == PAWN) pawnFiles[(side << 4) | FILE[to]]--;
  if (dropped != 0) {
    board[to] = 0;
    hands[(side << 3) | dropped]++;
    return;
  }
  const from = fromOf(move);
  const captured = undoCaptured[top];
  board[from] = <u8>piece;
  board[to] = <u8>captured;
  standing[(side << 1) | WORD[from]] ^= BIT[from];
  const type = piece & 15;
  if (type == PAWN) pawnFiles[(side << 4) | FILE[from]]++;
  else if (type == KING) kings[side] = from;
  if (captured == 0) return;
  standing[((1 - side) << 1) | WORD[to]] ^= BIT[to];
  if ((captured & 15) == PAWN) pawnFiles[((1 - side) << 4) | FILE[to]]++;
  if ((captured & 15) != KING) hands[(side << 3) | handType(captured)]--;
  else kings[1 - side] = to;
}

export function makeNull(): void {
  undoKeys[top] = key;
  undoMoves[top] = 0;
  top++;
  stateAt[top] = 0;
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
  return FAR_RANK[(owner << 7) | square];
}

function addBoardMove(from: i32, to: i32, type: i32, wanted: i32, end: i32): i32 {
  const capture = board[to] != 0;
  const move = from | (to << 7);
  if (type <= ROOK) {
    const rank = farRank(to, side);
    if (rank <= 3 || farRank(from, side) <= 3) {
      const tactical = capture || type == PAWN || type >= BISHOP;
      if ((wanted & (tactical ? TACTICAL : QUIET)) != 0) MOVE_LIST[end++] = move | (1 << 18);
    }
    if (rank == 1 && (type == PAWN || type == LANCE || type == KNIGHT)) return end;
    if (rank == 2 && type == KNIGHT) return end;
  }
  if ((wanted & (capture ? TACTICAL : QUIET)) != 0) MOVE_LIST[end++] = move;
  return end;
}

/**
 * Writes pseudo-legal moves from index `start` on and returns the end: {@link TACTICAL} (captures and the promotions
 * that change most), {@link QUIET} or both. In check, only moves that may answer it.
 */
export function generate(start: i32, wanted: i32): i32 {
  if ((stateAt[top] & CHECKS_KNOWN) == 0) study();
  let end = start;
  const checkers = checkersAt[top];
  const all = checkers == 0;
  const king = kings[side];
  for (let word = 0; word < 2; word++)
    for (let left = standing[(side << 1) | word]; left != 0; left &= left - 1) {
      const from = SQUARES[(word << 6) | <i32>ctz(left)];
      if (checkers > 1 && from != king) continue;
      const piece = <i32>board[from];
      const type = piece & 15;
      const free = all || type == KING;
      if (type == KNIGHT) {
        const ahead = from + (side == 0 ? -2 : 2);
        for (let sideways = -11; sideways <= 11; sideways += 22) {
          const to = ahead + sideways;
          if (to < 0 || to > 127) continue;
          const target = <i32>board[to];
          if (target != RIM && (target == 0 || target >> 4 != side) && (free || isAnswer(to)))
            end = addBoardMove(from, to, type, wanted, end);
        }
        continue;
      }
      const slides = SLIDE_MASK[piece];
      for (let directions = STEP_MASK[piece]; directions != 0; directions &= directions - 1) {
        const direction = <i32>ctz(directions);
        const step = STEPS[direction];
        const far = (slides & (1 << direction)) != 0;
        let to = from + step;
        for (;;) {
          const target = <i32>board[to];
          if (target == RIM || (target != 0 && target >> 4 == side)) break;
          if (free || isAnswer(to)) end = addBoardMove(from, to, type, wanted, end);
          if (target != 0 || !far) break;
          to += step;
        }
      }
    }
  return (wanted & QUIET) != 0 && checkers <= 1 ? addDrops(end) : end;
}

// @ts-ignore: decorator
@inline function isAnswer(square: i32): bool {
  return (answersAt[(top << 1) | WORD[square]] & BIT[square]) != 0;
}

function addDrops(end: i32): i32 {
  const met = checkersAt[top] != 0;
  for (let type = GOLD; type >= PAWN; type--) {
    if (hands[(side << 3) | type] == 0) continue;
    for (let word = 0; word < 2; word++) {
      let targets = DROPPABLE[(side << 4) | (type << 1) | word] & ~(standing[word] | standing[2 | word]);
      if (met) targets &= answersAt[(top << 1) | word];
      if (type == PAWN)
        for (let file = 1; file <= 9; file++)
          if (pawnFiles[(side << 4) | file] != 0) targets &= ~FILE_BITS[(file << 1) | word];
      for (; targets != 0; targets &= targets - 1)
        MOVE_LIST[end++] = (SQUARES[(word << 6) | <i32>ctz(targets)] << 7) | (type << 14);
    }
  }
  return end;
}

/** Writes the drops that give check. */
export function generateChecks(start: i32): i32 {
  let end = start;
  const king = kings[1 - side];
  if (king == 0) return end;
  for (let type = PAWN; type <= GOLD; type++) {
    if (hands[(side << 3) | type] == 0) continue;
    if (type == KNIGHT) {
      const behind = king + (side == 0 ? 2 : -2);
      for (let sideways = -11; sideways <= 11; sideways += 22)
        if (isOnBoard(behind + sideways) && board[behind + sideways] == 0)
          MOVE_LIST[end++] = ((behind + sideways) << 7) | (KNIGHT << 14);
      continue;
    }
    const piece = type | (side << 4);
    for (let direction = 0; direction < 8; direction++) {
      const towards = 1 << (7 - direction);
      if ((STEP_MASK[piece] & towards) == 0) continue;
      const step = STEPS[direction];
      const far = (SLIDE_MASK[piece] & towards) != 0;
      for (let at = king + step; board[at] == 0; at += step) {
        if (isDroppable(type, at)) MOVE_LIST[end++] = (at << 7) | (type << 14);
        if (!far) break;
      }
    }
  }
  return end;
}

// @ts-ignore: decorator
@inline function isDroppable(type: i32, square: i32): bool {
  return (
    (DROPPABLE[(side << 4) | (type << 1) | WORD[square]] & BIT[square]) != 0 &&
    (type != PAWN || pawnFiles[(side << 4) | FILE[square]] == 0)
  );
}

/** Whether a move from elsewhere (the table, another branch) could have been generated here. */
export function isPseudoLegal(move: i32): bool {
  if (move >> 22 != 0) return false;
  const to = toOf(move);
  const dropped = dropOf(move);
  const promotion = promotionOf(move);
  if (!isOnBoard(to)) return false;
  if ((stateAt[top] & CHECKS_KNOWN) == 0) study();
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
  if (!isOnBoard(from)) return false;
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
  const type = dropped != 0 ? dropped : <i32>board[fromOf(move)] & 15;
  const way = type <= KING ? type - 1 : type == BISHOP + 8 ? 8 : type == ROOK + 8 ? 9 : 10;
  return (side * 11 + way) * 81 + NUMBER[toOf(move)];
}

const exchangers = new StaticArray<i32>(64);

/** Lists the values of what attacks a square, cheapest first, from index 32 × owner on; returns how many. */
function listAttackers(square: i32, owner: i32, without: i32): i32 {
  const base = owner << 5;
  let found = 0;
  for (let direction = 0; direction < 8; direction++) {
    const step = STEPS[direction];
    const towards = 1 << (7 - direction);
    let near = true;
    for (let at = square + step; ; at += step) {
      const piece = at == without ? 0 : <i32>board[at];
      if (piece == RIM) break;
      if (piece != 0) {
        if (((near ? STEP_MASK[piece] : SLIDE_MASK[piece]) & towards) == 0) break;
        // what stands behind another attacker joins in, whichever side that is of
        if (piece >> 4 == owner) found = insertExchanger(base, found, piece & 15);
        near = false;
        continue;
      }
      near = false;
    }
  }
  const knight = KNIGHT | (owner << 4);
  const behind = square + (owner == 0 ? 2 : -2);
  for (let sideways = -11; sideways <= 11; sideways += 22) {
    const at = behind + sideways;
    if (at >= 0 && at < 128 && at != without && board[at] == knight) found = insertExchanger(base, found, KNIGHT);
  }
  return found;
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

/** The network's hidden layer for this position, brought up to date from the last one for which it is known. */
export function hiddenLayer(): usize {
  let known = top;
  while ((stateAt[known] & LAYER_KNOWN) == 0) known--;
  while (known < top) {
    known++;
    stateAt[known] |= LAYER_KNOWN;
    noteChanges(known - 1);
    bringForward(known);
  }
  return hiddenAt(top);
}

/** Tells the features that the move at a ply of the line added and dropped. */
function noteChanges(ply: i32): void {
  forgetChanges();
  const move = undoMoves[ply];
  if (move == 0) return;
  const to = toOf(move);
  const piece = <i32>undoPieces[ply];
  const mover = piece >> 4;
  const held = <i32>undoHeld[ply];
  const dropped = dropOf(move);
  if (dropped != 0) {
    noteDropped(HAND_FEATURES[((mover << 3) | dropped) * 20 + held]);
    noteAdded(FEATURES[(piece << 7) | to]);
    return;
  }
  noteDropped(FEATURES[(piece << 7) | fromOf(move)]);
  noteAdded(FEATURES[((piece + (promotionOf(move) << 3)) << 7) | to]);
  const captured = undoCaptured[ply];
  if (captured == 0) return;
  noteDropped(FEATURES[(captured << 7) | to]);
  if ((captured & 15) != KING) noteAdded(HAND_FEATURES[((mover << 3) | handType(captured)) * 20 + held]);
}
