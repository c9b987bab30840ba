import { board, BISHOP, GOLD, hands, HELD_AT, KING, kings, LANCE, movingSo, PAWN, ROOK, side, SILVER, standing } from './rules';
import { counted, FULL_PHASE, weightOf } from '../terms';

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

/** Steps of a king from one square to another, 1–8; 0: one of them is none. */
const DISTANCE = new StaticArray<u8>(128 * 128);

/** By square: the set of those within two squares of it. */
const NEARBY = new StaticArray<u64>(2 * 128);

export function initEvaluation(): void {
  for (let a = 1; a < 128; a++)
    for (let b = 1; b < 128; b++) {
      const steps = min(8, max(abs(a / 11 - b / 11), abs((a % 11) - (b % 11))));
      DISTANCE[(a << 7) | b] = <u8>steps;
      if (steps <= 2) NEARBY[(a << 1) | (b >> 6)] |= (<u64>1) << (<u64>(b & 63));
    }
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

/** What a piece other than a king counts by its type and its distances from the other king and its own. */
const STANDING = new StaticArray<i64>(16 * 81);
/** What a pawn counts by its side and where it stands. */
const ADVANCED = new StaticArray<i64>(32 * 128);
/** What one more in hand counts, by side, type and which of those held it is. */
const HELD_WORTH = new StaticArray<i64>(16 * 20);

/** To be called when weights have changed. */
export function prepareTerms(): void {
  for (let type = PAWN; type < 16; type++)
    for (let near = 0; near < 9; near++)
      for (let home = 0; home < 9; home++)
        STANDING[(type * 9 + near) * 9 + home] =
          type == KING
            ? 0
            : weightOf(MATERIAL + type) +
              (near == 0 ? 0 : weightOf(NEAR_OTHER_KING + type * 9 + near)) +
              (home == 0 ? 0 : weightOf(NEAR_OWN_KING + type * 9 + home));
  for (let owner = 0; owner < 2; owner++) {
    for (let square = 0; square < 128; square++)
      ADVANCED[((PAWN | (owner << 4)) << 7) | square] = weightOf(PAWN_RANK + advanceOf(square, owner));
    for (let type = PAWN; type <= GOLD; type++)
      for (let held = 1; held < 20; held++)
        HELD_WORTH[((owner << 3) | type) * 20 + held] =
          weightOf(HELD + type) + (held == 1 ? weightOf(HELD_FIRST + type) : 0);
  }
}

/** What a piece counts for its side where it stands now. */
// @ts-ignore: decorator
@inline function standingWorth(piece: i32, square: i32): i64 {
  const owner = piece >> 4;
  const near = <i32>DISTANCE[(kings[1 - owner] << 7) | square];
  const home = <i32>DISTANCE[(kings[owner] << 7) | square];
  return STANDING[((piece & 15) * 9 + near) * 9 + home] + ADVANCED[(piece << 7) | square];
}

/** What a placement of the rules counts for side 0, with the kings where they are now. */
export function worth(placement: i32): i64 {
  if (placement >= HELD_AT) {
    const held = placement - HELD_AT;
    return held >= 8 * 20 ? -HELD_WORTH[held] : HELD_WORTH[held];
  }
  const piece = placement >> 7;
  const own = standingWorth(piece, placement & 127);
  return piece >> 4 == 0 ? own : -own;
}

/** Whether all pieces count anew where this one has moved: the distance from kings counts. */
export function isCountedByAll(placement: i32): bool {
  return placement < HELD_AT && ((placement >> 7) & 15) == KING;
}

/** What all placements count for side 0. */
export function countPlacements(keep: bool): i64 {
  let sum: i64 = 0;
  for (let owner = 0; owner < 2; owner++) {
    let own: i64 = 0;
    for (let word = 0; word < 2; word++)
      for (let left = standing[(owner << 1) | word]; left != 0; left &= left - 1) {
        const square = (word << 6) | <i32>ctz(left);
        const piece = <i32>board[square];
        own += standingWorth(piece, square);
        if (keep) tellStanding(square, piece & 15, owner);
      }
    for (let type = PAWN; type <= GOLD; type++) {
      const held = hands[(owner << 3) | type];
      if (held == 0) continue;
      own += counted(HELD + type, held, owner, keep) + counted(HELD_FIRST + type, 1, owner, keep);
    }
    sum += owner == 0 ? own : -own;
  }
  return sum;
}

function tellStanding(square: i32, type: i32, owner: i32): void {
  if (type == KING) return;
  const near = <i32>DISTANCE[(kings[1 - owner] << 7) | square];
  const home = <i32>DISTANCE[(kings[owner] << 7) | square];
  counted(MATERIAL + type, 1, owner, true);
  if (type == PAWN) counted(PAWN_RANK + advanceOf(square, owner), 1, owner, true);
  if (near != 0) counted(NEAR_OTHER_KING + type * 9 + near, 1, owner, true);
  if (home != 0) counted(NEAR_OWN_KING + type * 9 + home, 1, owner, true);
}

/** Ranks from a side's far edge, 1–9. */
// @ts-ignore: decorator
@inline function advanceOf(square: i32, owner: i32): i32 {
  const rank = square % 11;
  return owner == 0 ? rank : 10 - rank;
}

function countLong(square: i32, owner: i32, keep: bool): i64 {
  const type = <i32>board[square] & 15;
  const ahead = owner == 0 ? -1 : 1;
  if (type == LANCE)
    return isFree(square + ahead) && isFree(square + 2 * ahead) ? counted(LANCE_OPEN, 1, owner, keep) : 0;
  if ((type & 7) == BISHOP) return counted(BISHOP_MOBILITY + mobility(square, BISHOP), 1, owner, keep);
  const sum = counted(ROOK_MOBILITY + mobility(square, ROOK), 1, owner, keep);
  const isOpen = type == ROOK && isFree(square + ahead) && advanceOf(square, owner) > 4;
  return isOpen ? sum + counted(ROOK_FILE_OPEN, 1, owner, keep) : sum;
}

/** The pieces of a set, in one of its words, that reach far. */
// @ts-ignore: decorator
@inline function longOf(owner: i32, word: i32): u64 {
  return (
    movingSo(LANCE, owner, word) |
    movingSo(BISHOP, owner, word) |
    movingSo(BISHOP + 8, owner, word) |
    movingSo(ROOK, owner, word) |
    movingSo(ROOK + 8, owner, word)
  );
}

/** What bears upon the other king: pieces within two squares of it, unless they are pawns, and what is held. */
function countAttack(owner: i32, keep: bool): i64 {
  const other = kings[1 - owner];
  let attack = 0;
  for (let word = 0; word < 2; word++) {
    const near = NEARBY[(other << 1) | word] & standing[(owner << 1) | word];
    for (let left = near & ~movingSo(PAWN, owner, word) & ~movingSo(KING, owner, word); left != 0; left &= left - 1)
      attack += 6 - <i32>DISTANCE[(other << 7) | (word << 6) | <i32>ctz(left)];
  }
  if (attack == 0) return 0;
  for (let type = LANCE; type <= GOLD; type++)
    attack += min(hands[(owner << 3) | type], 2) * (type >= BISHOP ? 2 : 1);
  return counted(KING_ATTACK + min(MOST_ATTACK, attack), 1, owner, keep);
}

function countReach(owner: i32, keep: bool): i64 {
  let sum: i64 = 0;
  for (let word = 0; word < 2; word++)
    for (let left = longOf(owner, word); left != 0; left &= left - 1)
      sum += countLong((word << 6) | <i32>ctz(left), owner, keep);
  return sum;
}

function countKing(owner: i32, keep: bool): i64 {
  const king = kings[owner];
  if (king == 0) return 0;
  const file = king / 11;
  const rank = advanceOf(king, owner);
  let sum = counted(KING_PLACE + (rank - 1) * 5 + min(file - 1, 9 - file), 1, owner, keep);
  if (rank <= 3) sum += counted(ENTERING_KING, 1, owner, keep);
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
  sum += counted(KING_ROOM + room, 1, owner, keep);
  sum += counted(KING_COVER + cover, 1, owner, keep);
  const before = board[king + (owner == 0 ? -1 : 1)];
  if (before == <u8>(PAWN | (owner << 4))) sum += counted(PAWN_AHEAD_OF_KING, 1, owner, keep);
  return sum;
}

/** In shogi no ending needs a correction. */
export function adjusted(score: i32): i32 {
  return score;
}

/** What all counts beside the placements: what pieces reach, where the kings are and how safe. */
export function countRest(keep: bool): i64 {
  const sum = countReach(0, keep) - countReach(1, keep) + countAttack(0, keep) - countAttack(1, keep) + countKing(0, keep) - countKing(1, keep);
  const tempo = counted(TEMPO, 1, side, keep);
  return side == 0 ? sum + tempo : sum - tempo;
}

/** How much of the opening is left, up to {@link FULL_PHASE}: pieces in hand are what an ending is made of. */
export function phaseNow(): i32 {
  let held = 0;
  for (let type = PAWN; type <= GOLD; type++) held += (hands[type] + hands[8 | type]) * (type == PAWN ? 1 : 2);
  return max(0, FULL_PHASE - held);
}
