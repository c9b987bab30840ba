import { ALL_MOVES, dropOf, fromOf, MOVE_LIST, toOf } from '../search/moves';
import {
  boardKey,
  canBeMetBetween,
  generate,
  generateBoardMoves,
  generateDropChecks,
  handBefore,
  heldWhereNone,
  inCheck,
  isBehind,
  makeMove,
  NO_MOVE_LOSES,
  packedHand,
  side,
  undoMove,
} from '../search/rules';
import { larger } from './hand';
import { foundDisproof, foundMate, foundMateHand, foundProof, foundSafe, lookUp, noteMate, noteNumbers, noteSafe } from './known';

/**
 * Proves and disproves mates within a number of plies (depth-first proof-number search, Nagai 2002): how much must
 * still be proved for a mate, and disproved against it, guides it to the line that resists least. What is known of a
 * position holds for whatever leads to it, since each look is for a mate in so many plies, which none can repeat.
 */
const NEVER: u32 = 1 << 28;
/** Longer than any mate looked for. */
const NONE: u32 = 255;
/** Of a position that is no mate, however long it may take. */
const EVER: u32 = 254;

let expanded: u32 = 0;
let budget: u32 = 0;
/** Whether the attacker may also move without check. */
let quiet: bool = false;
/** Whether pieces put between to no purpose count as defences. */
let strict: bool = false;

/** Of the moves listed for each ply, at the move's place in the list: the board behind it, and the attacker's hand. */
const boardsBehind = new StaticArray<u64>(256 * 600);
const handsBehind = new StaticArray<u32>(256 * 600);

/** Says what counts: moves of the attacker without check, and any piece put between as a defence. */
export function setMateRules(quietMoves: bool, everyDefence: bool): void {
  quiet = quietMoves;
  strict = everyDefence;
}

/** Of a position in which the side to move defends; another than where it attacks. */
const DEFENDS: u64 = 0x9d3c5b71e86f024a;

/** By what the board now is known again. */
function keyFor(attacks: bool): u64 {
  return attacks ? boardKey() : boardKey() ^ DEFENDS;
}

/** Keeps the legal ones of the moves listed from `start` on, an attacker's only where they give check or need not. */
function keepLegal(start: i32, until: i32, attacks: bool): i32 {
  const all = !attacks || quiet;
  let end = start;
  for (let i = start; i < until; i++) {
    const move = MOVE_LIST[i];
    if (!makeMove(move)) continue;
    if (all || inCheck()) {
      MOVE_LIST[end] = move;
      boardsBehind[end] = keyFor(!attacks);
      handsBehind[end++] = packedHand(attacks ? 1 - side : side);
    }
    undoMove();
  }
  return end;
}

/** Lists the attacker's moves from `start` on. */
function listAttacks(start: i32): i32 {
  if (quiet) return keepLegal(start, generate(start, ALL_MOVES), true);
  return keepLegal(start, generateDropChecks(generateBoardMoves(start, ALL_MOVES)), true);
}

function listReplies(start: i32): i32 {
  return keepLegal(start, generate(start, ALL_MOVES), false);
}

/**
 * Whether the side in check has nothing but drops between that change nothing: taken by the piece that gives check, each leads
 * to a check against which there is nothing again. The trade does not count such moves.
 */
function isMatedButForDrops(start: i32, end: i32): bool {
  if (strict) return false;
  for (let i = start; i < end; i++) if (dropOf(MOVE_LIST[i]) == 0) return false;
  for (let i = start; i < end; i++) {
    makeMove(MOVE_LIST[i]);
    const vain = isTakenInVain(end, toOf(MOVE_LIST[i]));
    undoMove();
    if (!vain) return false;
  }
  return true;
}

/** Whether what was put on a square is taken by the piece that gave check, with mate. */
function isTakenInVain(start: i32, square: i32): bool {
  const end = generateBoardMoves(start, ALL_MOVES);
  for (let i = start; i < end; i++) {
    const move = MOVE_LIST[i];
    if (toOf(move) != square || !isBehind(fromOf(move), square) || !makeMove(move)) continue;
    const replies = inCheck() ? listReplies(end) : -1;
    const mate = replies >= 0 && (replies == end || isMatedButForDrops(end, replies));
    undoMove();
    if (mate) return true;
  }
  return false;
}

/** What a defender would need in hand to put it between and has not: the attacker must hold it. */
function keptFromDefender(hand: u32): u32 {
  return quiet ? hand : inCheck() && canBeMetBetween() ? heldWhereNone(side, hand) : 0;
}

/** Looks at a position from which there is a mate in so many plies, or not: odd where the attacker is to move. */
function visit(plies: i32, start: i32, proofLimit: u32, disproofLimit: u32): void {
  const attacks = (plies & 1) == 1;
  const board = keyFor(attacks);
  const hand = packedHand(attacks ? side : 1 - side);
  const before = expanded++;
  const end = attacks ? listAttacks(start) : listReplies(start);
  if (end == start) {
    if (attacks || (!inCheck() && !NO_MOVE_LOSES)) noteSafe(board, hand, EVER, 1);
    else noteMate(board, keptFromDefender(hand), 0, 1);
    return;
  }
  if (!attacks && inCheck() && isMatedButForDrops(start, end)) return noteMate(board, keptFromDefender(hand), 0, 1);
  if (plies == 0) return noteSafe(board, hand, 0, 1);
  const left = <u32>(plies - 1);
  while (true) {
    // of the side to move: an attacker looks for the least proof, a defender for the least disproof
    let least: u32 = NEVER;
    let second: u32 = NEVER;
    let most: u32 = 0;
    let open: u32 = 0;
    let best = start;
    let bestOther: u32 = 0;
    let soonest: u32 = NONE;
    let latest: u32 = 0;
    let safest: u32 = 0;
    let leastSafe: u32 = EVER + 1;
    let needed: u32 = 0;
    for (let i = start; i < end; i++) {
      lookUp(boardsBehind[i], handsBehind[i]);
      const mate = foundMate;
      const safe = foundSafe;
      let proof = foundProof;
      let disproof = foundDisproof;
      if (mate <= left) {
        proof = 0;
        disproof = NEVER;
        if (!attacks) needed = larger(needed, foundMateHand);
        else if (mate < soonest) needed = handBefore(MOVE_LIST[i], foundMateHand);
      } else if (safe > left) {
        proof = NEVER;
        disproof = 0;
      }
      soonest = min(soonest, mate);
      latest = max(latest, mate);
      safest = max(safest, safe);
      leastSafe = min(leastSafe, safe);
      const own = attacks ? proof : disproof;
      const other = attacks ? disproof : proof;
      if (other != 0) open++;
      most = max(most, other);
      if (own < least) {
        second = least;
        least = own;
        best = i;
        bestOther = other;
      } else if (own < second) second = own;
    }
    // many ways to the same place are not many things to prove: the largest, and one for each of the others
    const together = most == NEVER || most == 0 ? most : min(NEVER - 1, most + open - 1);
    const proof = attacks ? least : together;
    const disproof = attacks ? together : least;
    if (proof == 0) {
      const kept = quiet ? hand : attacks ? needed : larger(needed, keptFromDefender(hand));
      return noteMate(board, kept, (attacks ? soonest : latest) + 1, expanded - before);
    }
    if (disproof == 0) {
      const safe = attacks ? leastSafe : safest;
      return noteSafe(board, hand, safe > EVER ? EVER : safe, expanded - before);
    }
    if (proof >= proofLimit || disproof >= disproofLimit || expanded >= budget)
      return noteNumbers(board, hand, proof, disproof, expanded - before);
    const ownLimit = attacks ? proofLimit : disproofLimit;
    const otherLimit = attacks ? disproofLimit : proofLimit;
    const nextOwn = min(ownLimit, second == NEVER ? NEVER : second + (second >> 2) + 1);
    const nextOther = max(otherLimit >= NEVER ? NEVER : otherLimit - (open - 1), bestOther + 1);
    makeMove(MOVE_LIST[best]);
    if (attacks) visit(plies - 1, end, nextOwn, nextOther);
    else visit(plies - 1, end, nextOther, nextOwn);
    undoMove();
  }
}

/** Looks up the position now, of an attacker or a defender. */
function lookUpNow(attacks: bool): void {
  lookUp(keyFor(attacks), packedHand(attacks ? side : 1 - side));
}

/**
 * Looks for a mate within so many plies of the position set up (odd: the side to move gives it; even: it is given it),
 * expanding at most so many positions. Called again, it goes on. Returns 1 where there is one, -1 where there is none, 0
 * where that is open.
 */
export function prove(plies: i32, most: u32): i32 {
  expanded = 0;
  budget = most;
  while (true) {
    lookUpNow((plies & 1) == 1);
    if (foundMate <= <u32>plies) return 1;
    if (foundSafe > <u32>plies) return -1;
    if (expanded >= budget) return 0;
    visit(plies, 0, NEVER, NEVER);
  }
}

/** Plies of the shortest mate known of the position now; 255: none. */
export function knownMate(attacks: bool): u32 {
  lookUpNow(attacks);
  return foundMate;
}

/** Whether it is known that there is no mate at all. */
export function isSafeForEver(attacks: bool): bool {
  lookUpNow(attacks);
  return foundSafe > EVER;
}

export function positionsExpanded(): u32 {
  return expanded;
}

/** Lists the moves of the position now, an attacker's or a defender's; returns how many. */
export function listMoves(attacks: bool): i32 {
  return attacks ? listAttacks(0) : listReplies(0);
}

/** Whether the side to move is mated, drops between to no purpose left aside. */
export function isMated(): bool {
  const end = listReplies(0);
  return inCheck() && (end == 0 || isMatedButForDrops(0, end));
}
