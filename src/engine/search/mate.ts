import { poll } from './host';
import { ALL_MOVES, GAME_PLIES, MOVE_LIST } from './moves';
import { currentKey, generate, inCheck, makeMove, undoMove } from './rules';

/**
 * A search for mates by check alone (depth-first proof-number search, Nagai 2002): how many positions must still be
 * proved for the mate, and disproved against it, guides it to the line that resists least. `phi` is the number for
 * the side to move, `delta` for the other: an attacker's proof or a defender's disproof.
 */
const ENTRIES: i32 = 1 << 17;
const NEVER: i32 = 1 << 28;
const MOST_PLY: i32 = 100;

const keys = new StaticArray<u64>(ENTRIES);
const phis = new StaticArray<i32>(ENTRIES);
const deltas = new StaticArray<i32>(ENTRIES);
/** Plies to the mate, once it is proved. */
const lengths = new StaticArray<i32>(ENTRIES);

/** Key of the position after each move listed. */
const childKeys = new StaticArray<u64>(256 * 600);
const path = new StaticArray<u64>(GAME_PLIES);

let expanded: i32 = 0;
let budget: i32 = 0;
/** Nodes of the search before this one began, for the host. */
let nodesBefore: u64 = 0;

/** The mate found: its moves. */
export const mateLine = new StaticArray<i32>(128);

function slotOf(key: u64): i32 {
  return <i32>(key >> 40) & (ENTRIES - 1);
}

function phiOf(key: u64): i32 {
  const slot = slotOf(key);
  return keys[slot] == key ? phis[slot] : 1;
}

function deltaOf(key: u64): i32 {
  const slot = slotOf(key);
  return keys[slot] == key ? deltas[slot] : 1;
}

function lengthOf(key: u64): i32 {
  const slot = slotOf(key);
  return keys[slot] == key ? lengths[slot] : 0;
}

function keep(key: u64, phi: i32, delta: i32, length: i32): void {
  const slot = slotOf(key);
  // what is settled stays
  if (keys[slot] != key && keys[slot] != 0 && (phis[slot] == 0 || deltas[slot] == 0) && phi != 0 && delta != 0) return;
  keys[slot] = key;
  phis[slot] = phi;
  deltas[slot] = delta;
  lengths[slot] = length;
}

function isOnPath(key: u64, ply: i32): bool {
  for (let at = ply; at >= 0; at -= 2) if (path[at] == key) return true;
  return false;
}

/** Lists the legal moves of the side to move (an attacker's: those that give check) with the keys behind them. */
function expand(start: i32, attacks: bool): i32 {
  const until = generate(start, ALL_MOVES);
  let end = start;
  for (let i = start; i < until; i++) {
    const move = MOVE_LIST[i];
    if (!makeMove(move)) continue;
    if (!attacks || inCheck()) {
      MOVE_LIST[end] = move;
      childKeys[end++] = currentKey();
    }
    undoMove();
  }
  return end;
}

function visit(ply: i32, start: i32, phiLimit: i32, deltaLimit: i32): void {
  const key = currentKey();
  path[ply] = key;
  expanded++;
  // the host's word ends the search as its budget does
  if ((expanded & 63) == 0 && poll(<f64>(nodesBefore + expanded)) != 0) budget = 0;
  const attacks = (ply & 1) == 0;
  const end = expand(start, attacks);
  if (end == start) {
    keep(key, NEVER, 0, 0);
    return;
  }
  if (ply >= MOST_PLY) {
    if (attacks) keep(key, NEVER, 0, 0);
    else keep(key, 0, NEVER, 0);
    return;
  }
  for (;;) {
    let phi = NEVER;
    let delta = 0;
    let best = start;
    let second = NEVER;
    let shortest = MOST_PLY;
    let longest = 0;
    for (let i = start; i < end; i++) {
      // to come round again is no mate: the attacker's loss
      const again = isOnPath(childKeys[i], ply - 1);
      const childPhi = again ? (attacks ? 0 : NEVER) : phiOf(childKeys[i]);
      const childDelta = again ? (attacks ? NEVER : 0) : deltaOf(childKeys[i]);
      if (childDelta < phi) {
        second = phi;
        phi = childDelta;
        best = i;
      } else if (childDelta < second) second = childDelta;
      delta = min(NEVER, delta + childPhi);
      const length = lengthOf(childKeys[i]);
      if (childDelta == 0) shortest = min(shortest, length);
      longest = max(longest, length);
    }
    const length = (attacks ? shortest : longest) + 1;
    if (phi >= phiLimit || delta >= deltaLimit || expanded >= budget) {
      keep(key, phi, delta, length);
      return;
    }
    const childKey = childKeys[best];
    const nextPhi = min(NEVER, deltaLimit + phiOf(childKey) - delta);
    const nextDelta = min(phiLimit, second + 1);
    makeMove(MOVE_LIST[best]);
    visit(ply + 1, end, nextPhi, nextDelta);
    undoMove();
  }
}

/**
 * Looks for a mate by check from the position set up, expanding at most so many positions. Returns the length of the
 * line written to {@link mateLine}, 0 where none was proved.
 * @param nodes searched so far, to be told to the host
 */
export function findMate(most: i32, nodes: u64): i32 {
  for (let i = 0; i < ENTRIES; i++) keys[i] = 0;
  expanded = 0;
  budget = most;
  nodesBefore = nodes;
  visit(0, 0, NEVER, NEVER);
  return phiOf(currentKey()) == 0 ? writeLine(0) : 0;
}

export function mateNodes(): i32 {
  return expanded;
}

/** Follows the proof: the attacker's shortest, the defender's longest way. */
function writeLine(ply: i32): i32 {
  const attacks = (ply & 1) == 0;
  const end = expand(0, attacks);
  let best = -1;
  let length = 0;
  for (let i = 0; i < end; i++) {
    const proved = attacks ? deltaOf(childKeys[i]) == 0 : phiOf(childKeys[i]) == 0;
    if (!proved) {
      // a settled position was lost from the table: the line would be no proof
      if (attacks) continue;
      return 0;
    }
    const child = lengthOf(childKeys[i]);
    if (best < 0 || (attacks ? child < length : child > length)) {
      best = i;
      length = child;
    }
  }
  if (best < 0) return attacks ? 0 : ply;
  if (ply >= MOST_PLY) return 0;
  const move = MOVE_LIST[best];
  makeMove(move);
  const found = writeLine(ply + 1);
  undoMove();
  mateLine[ply] = move;
  return found;
}
