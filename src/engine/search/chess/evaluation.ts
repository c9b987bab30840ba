import {
  BISHOP,
  bit,
  board,
  KING,
  KING_ATTACKS,
  KNIGHT,
  KNIGHT_ATTACKS,
  occupied,
  PAWN,
  PAWN_ATTACKS,
  pieces,
  QUEEN,
  ROOK,
  side,
} from './rules';
import { bishopAttacks, rookAttacks } from './sliders';
import { counted, FULL_PHASE, weightOf } from '../terms';

// Numbers of the terms; weights.ts of the learning programs names them for people.
const MATERIAL: i32 = 0;
/** By type, rank and file counted from the edge, for White. */
const PLACE: i32 = 8;
const MOBILITY_KNIGHT: i32 = 200;
const MOBILITY_BISHOP: i32 = 210;
const MOBILITY_ROOK: i32 = 225;
const MOBILITY_QUEEN: i32 = 240;
const BISHOP_PAIR: i32 = 270;
const ISOLATED: i32 = 271;
const DOUBLED: i32 = 272;
const BACKWARD: i32 = 273;
const ROOK_OPEN: i32 = 274;
const ROOK_HALF_OPEN: i32 = 275;
const KNIGHT_OUTPOST: i32 = 276;
const BISHOP_OUTPOST: i32 = 277;
const PAWN_HITS_PIECE: i32 = 278;
const MINOR_HITS_MAJOR: i32 = 279;
const ROOK_HITS_QUEEN: i32 = 280;
const LOOSE: i32 = 281;
const SPACE: i32 = 282;
const TEMPO: i32 = 283;
/** By rank. */
const CONNECTED: i32 = 288;
const PASSED: i32 = 296;
const PASSED_FREE: i32 = 304;
/** By distance of the king. */
const PASSED_OWN_KING: i32 = 312;
const PASSED_OTHER_KING: i32 = 320;
/** By how far the nearest own pawn stands before the king on a file. */
const SHELTER: i32 = 328;
const STORM: i32 = 336;
const KING_OPEN_FILE: i32 = 344;
/** By the weight of the attack on the squares round the king. */
const KING_ATTACK: i32 = 352;
const MOST_ATTACK: i32 = 31;

const FILE_A: u64 = 0x0101010101010101;

/** Passed pawns of both sides, gathered with the structure. */
let passed: u64 = 0;

const reached = new StaticArray<u64>(2);
const pawnReach = new StaticArray<u64>(2);

/** The squares to the left and right of a set. */
// @ts-ignore: decorator
@inline function beside(set: u64): u64 {
  return ((set & ~(FILE_A << 7)) << 1) | ((set & ~FILE_A) >> 1);
}

// @ts-ignore: decorator
@inline function widened(set: u64): u64 {
  return set | beside(set);
}

/** Rank 0–7 as a side counts it. */
// @ts-ignore: decorator
@inline function rankOf(square: i32, owner: i32): i32 {
  return owner == 0 ? square >> 3 : 7 - (square >> 3);
}

// @ts-ignore: decorator
@inline function distance(a: i32, b: i32): i32 {
  return max(abs((a & 7) - (b & 7)), abs((a >> 3) - (b >> 3)));
}

// @ts-ignore: decorator
@inline function placeTerm(type: i32, square: i32, owner: i32): i32 {
  const file = square & 7;
  return PLACE + ((type - 1) << 5) + (rankOf(square, owner) << 2) + min(file, 7 - file);
}

/** What a piece on a square counts for side 0 by itself and by where it stands. */
const WORTH = new StaticArray<i64>(16 * 64);

/** To be called when weights have changed. */
export function prepareTerms(): void {
  for (let type = PAWN; type <= KING; type++)
    for (let square = 0; square < 64; square++)
      for (let owner = 0; owner < 2; owner++) {
        const weight = (type == KING ? 0 : weightOf(MATERIAL + type)) + weightOf(placeTerm(type, square, owner));
        WORTH[((type | (owner << 3)) << 6) | square] = owner == 0 ? weight : -weight;
      }
  memory.fill(changetype<usize>(structures), 0, <usize>(STRUCTURES * STRUCTURE * 8));
}

/** What a placement of the rules counts for side 0. */
export function worth(placement: i32): i64 {
  return WORTH[placement];
}

/** Whether all pieces count anew where this one has moved: of none in chess. */
export function isCountedByAll(placement: i32): bool {
  return false;
}

/** What all placements count for side 0. */
export function countPlacements(keep: bool): i64 {
  let sum: i64 = 0;
  for (let left = occupied[0] | occupied[1]; left != 0; left &= left - 1) {
    const square = <i32>ctz(left);
    const piece = <i32>board[square];
    sum += WORTH[(piece << 6) | square];
    if (!keep) continue;
    const type = piece & 7;
    if (type != KING) counted(MATERIAL + type, 1, piece >> 3, keep);
    counted(placeTerm(type, square, piece >> 3), 1, piece >> 3, keep);
  }
  return sum;
}

// @ts-ignore: decorator
@inline function pawnAttacks(owner: i32): u64 {
  const pawns = pieces[PAWN | (owner << 3)];
  return owner == 0
    ? ((pawns & ~FILE_A) << 7) | ((pawns & ~(FILE_A << 7)) << 9)
    : ((pawns & ~(FILE_A << 7)) >> 7) | ((pawns & ~FILE_A) >> 9);
}

/** Squares of a set and those ahead of them on their files, as a side sees it. */
// @ts-ignore: decorator
@inline function filledAhead(set: u64, owner: i32): u64 {
  if (owner == 0) {
    set |= set << 8;
    set |= set << 16;
    return set | (set << 32);
  }
  set |= set >> 8;
  set |= set >> 16;
  return set | (set >> 32);
}

/** A set moved one rank ahead, as a side sees it. */
// @ts-ignore: decorator
@inline function stepped(set: u64, owner: i32): u64 {
  return owner == 0 ? set << 8 : set >> 8;
}

/** Squares that have one of a set ahead of them on their file, as a side sees it. */
// @ts-ignore: decorator
@inline function behind(set: u64, owner: i32): u64 {
  return stepped(filledAhead(set, 1 - owner), 1 - owner);
}

// @ts-ignore: decorator
@inline function countPawns(owner: i32, keep: bool): i64 {
  const own = pieces[PAWN | (owner << 3)];
  const other = pieces[PAWN | ((1 - owner) << 3)];
  const front = filledAhead(own, owner);
  const rear = filledAhead(own, 1 - owner);
  const doubled = own & stepped(rear, 1 - owner);
  const isolated = own & ~beside(front | rear);
  const connected = own & (pawnReach[owner] | beside(own));
  // alone at its rank, no other can come to its side, and a step ahead it is taken
  const backward = own & ~isolated & ~connected & ~beside(front) & stepped(pawnReach[1 - owner], 1 - owner);
  const free = own & ~doubled & ~widened(behind(other, owner));
  passed |= free;
  let sum = counted(DOUBLED, <i32>popcnt(doubled), owner, keep);
  sum += counted(ISOLATED, <i32>popcnt(isolated), owner, keep);
  sum += counted(BACKWARD, <i32>popcnt(backward), owner, keep);
  for (let left = connected; left != 0; left &= left - 1)
    sum += counted(CONNECTED + rankOf(<i32>ctz(left), owner), 1, owner, keep);
  const ownKing = <i32>ctz(pieces[KING | (owner << 3)]);
  const otherKing = <i32>ctz(pieces[KING | ((1 - owner) << 3)]);
  for (let left = free; left != 0; left &= left - 1) {
    const square = <i32>ctz(left);
    const rank = rankOf(square, owner);
    sum += counted(PASSED + rank, 1, owner, keep);
    if (rank < 3) continue;
    const stop = owner == 0 ? square + 8 : square - 8;
    sum += counted(PASSED_OWN_KING + distance(ownKing, stop), rank - 2, owner, keep);
    sum += counted(PASSED_OTHER_KING + distance(otherKing, stop), rank - 2, owner, keep);
  }
  return sum;
}

// @ts-ignore: decorator
@inline function countFreePassed(owner: i32, keep: bool): i64 {
  let sum: i64 = 0;
  const all = occupied[0] | occupied[1];
  for (let left = passed & occupied[owner] & ~behind(all, owner); left != 0; left &= left - 1)
    sum += counted(PASSED_FREE + rankOf(<i32>ctz(left), owner), 1, owner, keep);
  return sum;
}

/**
 * Pawns and kings stand the same in most of the positions that a search looks at, so what they count is kept: pawns of
 * either side with its king's square, which takes the place of ranks where no pawn can be; passed pawns; sum.
 */
const STRUCTURES: i32 = 4096;
const STRUCTURE: i32 = 4;
const structures = new StaticArray<u64>(STRUCTURES * STRUCTURE);

// @ts-ignore: decorator
@inline function countStructure(keep: bool): i64 {
  // never nought, so that nothing is found where nothing is kept
  const white = pieces[PAWN] | (1 + ctz(pieces[KING]));
  const black = pieces[PAWN | 8] | (1 + ctz(pieces[KING | 8]));
  const hash = (white * 0x9e3779b97f4a7c15) ^ (black * 0xc2b2ae3d27d4eb4f);
  const at = <i32>(hash >> 52) * STRUCTURE;
  if (!keep && structures[at] == white && structures[at + 1] == black) {
    passed = structures[at + 2];
    return <i64>structures[at + 3];
  }
  passed = 0;
  const sum = countPawns(0, keep) - countPawns(1, keep) + countKing(0, keep) - countKing(1, keep);
  structures[at] = white;
  structures[at + 1] = black;
  structures[at + 2] = passed;
  structures[at + 3] = <u64>sum;
  return sum;
}

/** Outposts of some pieces: in the middle of the enemy's half, covered by a pawn, where no pawn can drive them away. */
// @ts-ignore: decorator
@inline function countOutposts(some: u64, owner: i32): i32 {
  const others = pieces[PAWN | ((1 - owner) << 3)];
  const half: u64 = owner == 0 ? 0x0000ffffff000000 : 0x000000ffffff0000;
  return <i32>popcnt(some & half & pawnReach[owner] & ~beside(behind(others, owner)));
}

const ATTACKER: i32 = 1 << 16;

/** What a piece bears upon the squares round the other king, and one attacker in the high half. */
// @ts-ignore: decorator
@inline function pressureOf(hits: u64, weight: i32): i32 {
  return weight * <i32>popcnt(hits) + (hits != 0 ? ATTACKER : 0);
}

// @ts-ignore: decorator
@inline function countPieces(owner: i32, keep: bool): i64 {
  const colour = owner << 3;
  const enemy = (1 - owner) << 3;
  const all = occupied[0] | occupied[1];
  const zone = KING_ATTACKS[<i32>ctz(pieces[KING | enemy])];
  const safe = ~(occupied[owner] | pawnReach[1 - owner]);
  const knights = pieces[KNIGHT | colour];
  const bishops = pieces[BISHOP | colour];
  const rooks = pieces[ROOK | colour];
  const queens = pieces[QUEEN | colour];
  let sum: i64 = 0;
  let reach: u64 = 0;
  let hitByMinors = 0;
  let hitByRooks = 0;
  let pressure = 0;
  const queensOfEnemy = pieces[QUEEN | enemy];
  const majors = pieces[ROOK | enemy] | queensOfEnemy;
  for (let left = knights; left != 0; left &= left - 1) {
    const targets = KNIGHT_ATTACKS[<i32>ctz(left)];
    sum += counted(MOBILITY_KNIGHT + <i32>popcnt(targets & safe), 1, owner, keep);
    hitByMinors += <i32>popcnt(targets & majors);
    pressure += pressureOf(targets & zone, 2);
    reach |= targets;
  }
  for (let left = bishops; left != 0; left &= left - 1) {
    const targets = bishopAttacks(<i32>ctz(left), all ^ queens);
    sum += counted(MOBILITY_BISHOP + <i32>popcnt(targets & safe), 1, owner, keep);
    hitByMinors += <i32>popcnt(targets & majors);
    pressure += pressureOf(targets & zone, 2);
    reach |= targets;
  }
  for (let left = rooks; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    const targets = rookAttacks(from, all ^ rooks ^ queens);
    sum += counted(MOBILITY_ROOK + <i32>popcnt(targets & safe), 1, owner, keep);
    hitByRooks += <i32>popcnt(targets & queensOfEnemy);
    pressure += pressureOf(targets & zone, 3);
    reach |= targets;
    const file = FILE_A << (<u64>(from & 7));
    if ((file & pieces[PAWN | colour]) == 0)
      sum += counted((file & pieces[PAWN | enemy]) == 0 ? ROOK_OPEN : ROOK_HALF_OPEN, 1, owner, keep);
  }
  for (let left = queens; left != 0; left &= left - 1) {
    const from = <i32>ctz(left);
    const targets = rookAttacks(from, all) | bishopAttacks(from, all);
    sum += counted(MOBILITY_QUEEN + <i32>popcnt(targets & safe), 1, owner, keep);
    pressure += pressureOf(targets & zone, 5);
    reach |= targets;
  }
  reached[owner] |= reach;
  if (popcnt(bishops) >= 2) sum += counted(BISHOP_PAIR, 1, owner, keep);
  sum += counted(KNIGHT_OUTPOST, countOutposts(knights, owner), owner, keep);
  sum += counted(BISHOP_OUTPOST, countOutposts(bishops, owner), owner, keep);
  sum += counted(MINOR_HITS_MAJOR, hitByMinors, owner, keep);
  sum += counted(ROOK_HITS_QUEEN, hitByRooks, owner, keep);
  if (pressure >= 2 * ATTACKER)
    sum += counted(KING_ATTACK + min(MOST_ATTACK, pressure & (ATTACKER - 1)), 1, owner, keep);
  return sum;
}

// @ts-ignore: decorator
@inline function countKing(owner: i32, keep: bool): i64 {
  let sum: i64 = 0;
  const king = <i32>ctz(pieces[KING | (owner << 3)]);
  const own = pieces[PAWN | (owner << 3)];
  const other = pieces[PAWN | ((1 - owner) << 3)];
  const centre = max(1, min(6, king & 7));
  const row = (<u64>7) << (<u64>((king & 56) + centre - 1));
  const front = stepped(filledAhead(row, owner), owner);
  for (let file = centre - 1; file <= centre + 1; file++) {
    const squares = FILE_A << (<u64>file);
    sum += counted(SHELTER + nearest(front & squares & own, king, owner), 1, owner, keep);
    sum += counted(STORM + nearest(front & squares & other, king, owner), 1, owner, keep);
    if (((own | other) & squares) == 0) sum += counted(KING_OPEN_FILE, 1, owner, keep);
  }
  return sum;
}

/** Ranks to the nearest of some pawns before a king, 1–6; 0: there are none. */
function nearest(pawns: u64, king: i32, owner: i32): i32 {
  if (pawns == 0) return 0;
  const rank = owner == 0 ? <i32>ctz(pawns) >> 3 : (63 - <i32>clz(pawns)) >> 3;
  return min(6, abs(rank - (king >> 3)));
}

// @ts-ignore: decorator
@inline function countThreats(owner: i32, keep: bool): i64 {
  let sum: i64 = 0;
  const enemy = (1 - owner) << 3;
  const pawnsOfEnemy = pieces[PAWN | enemy];
  const targets = occupied[1 - owner] & ~pawnsOfEnemy & ~pieces[KING | enemy];
  sum += counted(PAWN_HITS_PIECE, <i32>popcnt(pawnReach[owner] & targets), owner, keep);
  const undefended = occupied[1 - owner] & ~reached[1 - owner] & ~pawnReach[1 - owner];
  sum += counted(LOOSE, <i32>popcnt(reached[owner] & undefended), owner, keep);
  const home: u64 = owner == 0 ? 0x000000003c3c3c00 : 0x003c3c3c00000000;
  sum += counted(SPACE, <i32>popcnt(home & ~pieces[PAWN | (owner << 3)] & ~pawnReach[1 - owner]), owner, keep);
  return sum;
}

/** How far from the edge: 0 in a corner, 6 in the centre. */
function centrality(square: i32): i32 {
  const file = square & 7;
  const rank = square >> 3;
  return min(file, 7 - file) + min(rank, 7 - rank);
}

const DARK: u64 = 0xaa55aa55aa55aa55;

/** Hundredths of a pawn that a side's pieces are worth by count alone. */
function pieceMaterial(owner: i32): i32 {
  const colour = owner << 3;
  const minors = pieces[KNIGHT | colour] | pieces[BISHOP | colour];
  return (
    300 * <i32>popcnt(minors) + 500 * <i32>popcnt(pieces[ROOK | colour]) + 900 * <i32>popcnt(pieces[QUEEN | colour])
  );
}

/** What mating technique needs: a lone king is driven to the edge (to the right corner, for bishop and knight). */
function techniqueBonus(strong: i32): i32 {
  const colour = strong << 3;
  const weak = <i32>ctz(pieces[KING | ((1 - strong) << 3)]);
  const own = <i32>ctz(pieces[KING | colour]);
  const near = (7 - distance(weak, own)) * 12;
  const bishops = pieces[BISHOP | colour];
  const knights = pieces[KNIGHT | colour];
  const heavy = pieces[ROOK | colour] | pieces[QUEEN | colour];
  if (heavy == 0 && popcnt(bishops) == 1 && popcnt(knights) == 1) {
    // distance to the nearer corner of the bishop's colour: a1 and h8 are dark
    const dark = (bishops & DARK) == 0;
    const a = dark ? 7 : 0;
    const b = dark ? 56 : 63;
    const corner = min(manhattan(weak, a), manhattan(weak, b));
    return (14 - corner) * 18 + near + (6 - centrality(weak)) * 8;
  }
  return (6 - centrality(weak)) * 20 + near;
}

function manhattan(a: i32, b: i32): i32 {
  return abs((a & 7) - (b & 7)) + abs((a >> 3) - (b >> 3));
}

/**
 * Corrects a score of side 0 where few pieces are left: endings that can't be won are drawn towards nought, and a
 * side that only has to mate is led there.
 */
export function adjusted(score: i32): i32 {
  const strong = score >= 0 ? 0 : 1;
  const colour = strong << 3;
  const sign = strong == 0 ? 1 : -1;
  const pawns = pieces[PAWN | colour];
  const weakOthers = occupied[1 - strong] ^ pieces[KING | ((1 - strong) << 3)];
  if (pawns == 0) {
    const heavy = pieces[ROOK | colour] | pieces[QUEEN | colour];
    const minors = <i32>popcnt(pieces[KNIGHT | colour] | pieces[BISHOP | colour]);
    const oneColour =
      pieces[KNIGHT | colour] == 0 &&
      ((pieces[BISHOP | colour] & DARK) == 0 || (pieces[BISHOP | colour] & ~DARK) == 0);
    if (heavy == 0 && (minors <= 1 || oneColour || (minors == 2 && pieces[BISHOP | colour] == 0)))
      return score / 16;
    // against a bare king only the way to the mate counts, whatever else the evaluation sees
    if (weakOthers == 0) return sign * (pieceMaterial(strong) + techniqueBonus(strong));
  }
  const bishops = pieces[BISHOP] | pieces[BISHOP | 8];
  const rest = pieces[KNIGHT] | pieces[KNIGHT | 8] | pieces[ROOK] | pieces[ROOK | 8] | pieces[QUEEN] | pieces[QUEEN | 8];
  if (
    rest == 0 &&
    popcnt(pieces[BISHOP]) == 1 &&
    popcnt(pieces[BISHOP | 8]) == 1 &&
    popcnt(bishops & DARK) == 1
  )
    return score / 2;
  return score;
}

/** What all counts beside the placements. */
// @ts-ignore: decorator
@inline export function countRest(keep: bool): i64 {
  pawnReach[0] = pawnAttacks(0);
  pawnReach[1] = pawnAttacks(1);
  reached[0] = pawnReach[0] | KING_ATTACKS[<i32>ctz(pieces[KING])];
  reached[1] = pawnReach[1] | KING_ATTACKS[<i32>ctz(pieces[KING | 8])];
  let sum = countStructure(keep);
  sum += countFreePassed(0, keep) - countFreePassed(1, keep);
  sum += countPieces(0, keep) - countPieces(1, keep);
  // what is reached by then is what threats are made of
  sum += countThreats(0, keep) - countThreats(1, keep);
  const tempo = counted(TEMPO, 1, side, keep);
  return side == 0 ? sum + tempo : sum - tempo;
}

/** How much of the middlegame is left, up to {@link FULL_PHASE}. */
export function phaseNow(): i32 {
  const minors = pieces[KNIGHT] | pieces[BISHOP] | pieces[KNIGHT | 8] | pieces[BISHOP | 8];
  const phase =
    <i32>popcnt(minors) +
    2 * <i32>popcnt(pieces[ROOK] | pieces[ROOK | 8]) +
    4 * <i32>popcnt(pieces[QUEEN] | pieces[QUEEN | 8]);
  return min(FULL_PHASE, phase);
}

/** Nothing to prepare in chess. */
export function initEvaluation(): void {}
