import { board, BISHOP, GOLD, hands, KING, kings, LANCE, PAWN, ROOK, side, standing, SILVER } from './rules';
import { blended, counted, counting, startTerms, weighting, weightOf } from '../terms';

// Numbers of the terms; terms.ts of the engine names them for people.
const MATERIAL: i32 = 0;
/** By type: one in hand. */
const HELD: i32 = 16;
/** By type: a first one in hand is worth more than the next. */
const HELD_FIRST: i32 = 24;
/** By rank (1–9) and file counted from the edge (0–4). */
const KING_PLACE: i32 = 32;
const PAWN_RANK: i32 = 80;
/** By type and distance (1–8). */
const NEAR_OTHER_KING: i32 = 96;
const NEAR_OWN_KING: i32 = 240;
/** By how much bears upon the king: pieces near it and what the attacker holds. */
const KING_ATTACK: i32 = 384;
const MOST_ATTACK: i32 = 31;
/** By the number of squares next to the king without a defender on them that it can step to. */
const KING_ROOM: i32 = 416;
const KING_COVER: i32 = 432;
const ROOK_MOBILITY: i32 = 448;
const BISHOP_MOBILITY: i32 = 468;
const ROOK_FILE_OPEN: i32 = 488;
const PAWN_AHEAD_OF_KING: i32 = 489;
const ENTERING_KING: i32 = 490;
const TEMPO: i32 = 491;
const LANCE_OPEN: i32 = 492;

const FULL_PHASE: i32 = 24;
/** Steps of a king from one square to another, 1–8; 0: one of them is none. */
const DISTANCE = new StaticArray<u8>(128 * 128);

export function initEvaluation(): void {
  for (let a = 1; a < 128; a++)
    for (let b = 1; b < 128; b++)
      DISTANCE[(a << 7) | b] = <u8>min(8, max(abs(a / 11 - b / 11), abs((a % 11) - (b % 11))));
}

// @ts-ignore: decorator
@inline function isFree(square: i32): bool {
  return board[square] == 0;
}

function mobility(from: i32, type: i32): i32 {
  let squares = 0;
  if (type == ROOK) {
    for (let at = from + 1; isFree(at); at++) squares++;
    for (let at = from - 1; isFree(at); at--) squares++;
    for (let at = from + 11; isFree(at); at += 11) squares++;
    for (let at = from - 11; isFree(at); at -= 11) squares++;
  } else {
    for (let at = from + 12; isFree(at); at += 12) squares++;
    for (let at = from - 12; isFree(at); at -= 12) squares++;
    for (let at = from + 10; isFree(at); at += 10) squares++;
    for (let at = from - 10; isFree(at); at -= 10) squares++;
  }
  return squares;
}

/** What a piece other than a king gives by its type and its distances from the other king and its own. */
const STANDING = new StaticArray<i64>(16 * 81);
/** What a pawn gives by its side and where it stands. */
const ADVANCED = new StaticArray<i64>(32 * 128);
/** What a piece bears upon the other king by its type and its distance, and one attacker in the high half. */
const BEARING = new StaticArray<i32>(16 * 9);
const ATTACKER: i32 = 1 << 16;
/** The weighting under which that was summed. */
let standingOf: i32 = 0;

function sumStanding(): void {
  standingOf = weighting;
  for (let type = 0; type < 16; type++)
    for (let near = 0; near < 9; near++) {
      const bears = type != PAWN && type != KING && (near == 1 || near == 2);
      BEARING[type * 9 + near] = bears ? ATTACKER + 6 - near : 0;
      for (let home = 0; home < 9; home++)
        STANDING[(type * 9 + near) * 9 + home] =
          type == KING
            ? 0
            : weightOf(MATERIAL + type) +
              (near == 0 ? 0 : weightOf(NEAR_OTHER_KING + type * 9 + near)) +
              (home == 0 ? 0 : weightOf(NEAR_OWN_KING + type * 9 + home));
    }
  for (let owner = 0; owner < 2; owner++)
    for (let square = 0; square < 128; square++)
      ADVANCED[((PAWN | (owner << 4)) << 7) | square] = weightOf(PAWN_RANK + advanceOf(square, owner));
}

function tellStanding(square: i32, type: i32, near: i32, home: i32, owner: i32): void {
  if (type == KING) return;
  counted(MATERIAL + type, 1, owner);
  if (type == PAWN) counted(PAWN_RANK + advanceOf(square, owner), 1, owner);
  if (near != 0) counted(NEAR_OTHER_KING + type * 9 + near, 1, owner);
  if (home != 0) counted(NEAR_OWN_KING + type * 9 + home, 1, owner);
}

/** Ranks from a side's far edge, 1–9. */
// @ts-ignore: decorator
@inline function advanceOf(square: i32, owner: i32): i32 {
  const rank = square % 11;
  return owner == 0 ? rank : 10 - rank;
}

/** Types that reach far. */
const LONG: i32 = (1 << LANCE) | (1 << BISHOP) | (1 << ROOK) | (1 << (BISHOP + 8)) | (1 << (ROOK + 8));

function countLong(square: i32, owner: i32): i64 {
  const type = <i32>board[square] & 15;
  const ahead = owner == 0 ? -1 : 1;
  if (type == LANCE)
    return isFree(square + ahead) && isFree(square + 2 * ahead) ? counted(LANCE_OPEN, 1, owner) : 0;
  if ((type & 7) == BISHOP) return counted(BISHOP_MOBILITY + mobility(square, BISHOP), 1, owner);
  const sum = counted(ROOK_MOBILITY + mobility(square, ROOK), 1, owner);
  const isOpen = type == ROOK && isFree(square + ahead) && advanceOf(square, owner) > 4;
  return isOpen ? sum + counted(ROOK_FILE_OPEN, 1, owner) : sum;
}

function countSide(owner: i32): i64 {
  let sum: i64 = 0;
  const own = kings[owner];
  const other = kings[1 - owner];
  let bearing = 0;
  for (let word = 0; word < 2; word++) {
    let long: u64 = 0;
    // what a piece is can't be foretold, so nothing here asks
    for (let left = standing[(owner << 1) | word]; left != 0; left &= left - 1) {
      const bit = <i32>ctz(left);
      const square = (word << 6) | bit;
      const piece = <i32>board[square];
      const type = piece & 15;
      const near = <i32>DISTANCE[(other << 7) | square];
      const home = <i32>DISTANCE[(own << 7) | square];
      sum += STANDING[(type * 9 + near) * 9 + home] + ADVANCED[(piece << 7) | square];
      bearing += BEARING[type * 9 + near];
      long |= (<u64>((LONG >> type) & 1)) << (<u64>bit);
      if (counting) tellStanding(square, type, near, home, owner);
    }
    for (; long != 0; long &= long - 1) sum += countLong((word << 6) | <i32>ctz(long), owner);
  }
  let attack = bearing & (ATTACKER - 1);
  for (let type = PAWN; type <= GOLD; type++) {
    const held = hands[(owner << 3) | type];
    if (held == 0) continue;
    sum += counted(HELD + type, held, owner);
    sum += counted(HELD_FIRST + type, 1, owner);
    if (type != PAWN) attack += min(held, 2) * (type == GOLD || type >= BISHOP ? 2 : 1);
  }
  if (bearing >= ATTACKER) sum += counted(KING_ATTACK + min(MOST_ATTACK, attack), 1, owner);
  return sum;
}

function countKing(owner: i32): i64 {
  let sum: i64 = 0;
  const king = kings[owner];
  if (king == 0) return 0;
  const file = king / 11;
  const rank = owner == 0 ? king % 11 : 10 - (king % 11);
  sum += counted(KING_PLACE + (rank - 1) * 5 + min(file - 1, 9 - file), 1, owner);
  let room = 0;
  let cover = 0;
  for (let df = -11; df <= 11; df += 11)
    for (let dr = -1; dr <= 1; dr++) {
      const piece = <i32>board[king + df + dr];
      if (piece == 0) room++;
      else if (piece != 255 && piece >> 4 == owner) {
        const type = piece & 15;
        if (type == GOLD || type == SILVER || (type > KING && type < 13)) cover++;
      }
    }
  sum += counted(KING_ROOM + room, 1, owner);
  sum += counted(KING_COVER + cover, 1, owner);
  const before = board[king + (owner == 0 ? -1 : 1)];
  if (before == <u8>(PAWN | (owner << 4))) sum += counted(PAWN_AHEAD_OF_KING, 1, owner);
  if (rank <= 3) sum += counted(ENTERING_KING, 1, owner);
  return sum;
}

function gamePhase(): i32 {
  let held = 0;
  for (let type = PAWN; type <= GOLD; type++) held += (hands[type] + hands[8 | type]) * (type == PAWN ? 1 : 2);
  return max(0, FULL_PHASE - held);
}

/** In shogi no ending needs a correction. */
export function adjusted(score: i32): i32 {
  return score;
}

/** Hundredths of a pawn from the view of the side to move; with `keep`, the count of each term can be read after it. */
export function evaluateByTerms(keep: bool): i32 {
  startTerms(keep);
  if (standingOf != weighting) sumStanding();
  const tempo = counted(TEMPO, 1, side);
  const sum = countSide(0) - countSide(1) + countKing(0) - countKing(1) + (side == 0 ? tempo : -tempo);
  const score = blended(sum, gamePhase(), FULL_PHASE);
  return side == 0 ? score : -score;
}

/** Share of the opening in the weights, 0–24 of 24. */
export function phaseNow(): i32 {
  return gamePhase();
}
