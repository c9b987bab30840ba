import { LEARN_MOST, LEARN_PLY, LEARN_SQUARE } from './margins';
import { ALL_MOVES, MOVE_LIST, MOVE_SCORES, QUIET, TACTICAL } from './moves';
import {
  capturedType,
  generate,
  generateChecks,
  isPseudoLegal,
  isTactical,
  moveIndex,
  MOVE_INDEXES,
  tacticalGain,
  winsAtLeast,
} from './rules';

/** The order in which moves are tried: the table's move, winning captures, killers, quiet moves, losing captures. */
const PLIES: i32 = 130;
const MOST_HISTORY: i32 = 16384;

const FROM_TABLE: i32 = 0;
const MAKE_TACTICAL: i32 = 1;
const GOOD_TACTICAL: i32 = 2;
const FIRST_KILLER: i32 = 3;
const SECOND_KILLER: i32 = 4;
const MAKE_QUIET: i32 = 5;
const QUIETS: i32 = 6;
const BAD_TACTICAL: i32 = 7;
const NO_MORE: i32 = 8;
const MAKE_CHECKS: i32 = 9;
const CHECKS: i32 = 10;

const killers = new StaticArray<i32>(2 * PLIES);
const history = new StaticArray<i16>(MOVE_INDEXES);
/** How well a move did after another, that of the other side or the own one before it. */
const continuation = new StaticArray<i16>(MOVE_INDEXES * MOVE_INDEXES);
const captureHistory = new StaticArray<i16>(MOVE_INDEXES * 16);

/** The move that led to each ply, as an index; -1 after a null move. */
export const ledBy = new StaticArray<i32>(PLIES + 4);

/** How far the moves of a node have been handed out. */
class Handout {
  stage: i32 = 0;
  /** Places in the list of moves: where the node's begin, the next to hand out, their end, and that of losing captures. */
  first: i32 = 0;
  current: i32 = 0;
  end: i32 = 0;
  badEnd: i32 = 0;
  tableMove: i32 = 0;
  /** 0: all moves; 1: tactical ones; 2: tactical ones and quiet checks. */
  only: i32 = 0;
  isQuietSkipped: bool = false;
  /** The score behind the move last handed out: the histories of a quiet move. */
  lastScore: i32 = 0;
}

const handouts = new StaticArray<Handout>(PLIES);

export function initOrdering(): void {
  for (let ply = 0; ply < PLIES; ply++) handouts[ply] = new Handout();
}

export function clearOrdering(): void {
  for (let i = 0; i < 2 * PLIES; i++) killers[i] = 0;
  for (let i = 0; i < MOVE_INDEXES; i++) history[i] = 0;
  memory.fill(changetype<usize>(continuation), 0, <usize>(MOVE_INDEXES * MOVE_INDEXES * 2));
  for (let i = 0; i < MOVE_INDEXES * 16; i++) captureHistory[i] = 0;
}

/** Starts to hand out the moves of a node; `start` is the first free place in the list of moves. */
export function openMoves(ply: i32, start: i32, tableMove: i32, kind: i32): void {
  const node = handouts[ply];
  node.stage = FROM_TABLE;
  node.first = start;
  node.current = start;
  node.end = start;
  node.badEnd = start;
  node.tableMove = tableMove != 0 && isPseudoLegal(tableMove) && (kind == 0 || isTactical(tableMove)) ? tableMove : 0;
  node.only = kind;
  node.isQuietSkipped = false;
}

/** No further quiet moves are wanted at this node, but for those that give check. */
export function skipQuiets(ply: i32): void {
  handouts[ply].isQuietSkipped = true;
}

/** Where the moves of the next ply may begin. */
export function movesEnd(ply: i32): i32 {
  return handouts[ply].end;
}

export function scoreOfLast(ply: i32): i32 {
  return handouts[ply].lastScore;
}

/** The stage that the move last handed out came from is that of losing captures. */
export function isBadTactical(ply: i32): bool {
  return handouts[ply].stage == BAD_TACTICAL;
}

/** The move last handed out is a quiet one that gives check. */
export function isQuietCheck(ply: i32): bool {
  return handouts[ply].stage == CHECKS;
}

function isKiller(move: i32, ply: i32): bool {
  return move == killers[ply << 1] || move == killers[(ply << 1) | 1];
}

/** The next move, or 0 when all have been handed out. */
export function nextMove(ply: i32): i32 {
  const node = handouts[ply];
  while (node.stage != NO_MORE)
    switch (node.stage) {
      case FROM_TABLE:
        node.stage = MAKE_TACTICAL;
        node.lastScore = MOST_HISTORY;
        if (node.tableMove != 0) return node.tableMove;
        break;
      case MAKE_TACTICAL: {
        const end = generate(node.current, TACTICAL);
        for (let i = node.current; i < end; i++) MOVE_SCORES[i] = tacticalScore(MOVE_LIST[i]);
        node.end = end;
        node.stage = GOOD_TACTICAL;
        break;
      }
      case GOOD_TACTICAL: {
        const at = node.current;
        if (at == node.end) {
          node.stage = node.only == 0 ? FIRST_KILLER : node.only == 2 ? MAKE_CHECKS : BAD_TACTICAL;
          if (node.only != 0) node.current = node.first;
          break;
        }
        const move = pick(at, node.end);
        node.current = at + 1;
        if (move == node.tableMove) break;
        if (!winsAtLeast(move, 0)) {
          // losing captures wait at the front of the list
          MOVE_LIST[node.badEnd] = move;
          MOVE_SCORES[node.badEnd++] = MOVE_SCORES[at];
          break;
        }
        node.lastScore = MOST_HISTORY;
        return move;
      }
      case FIRST_KILLER:
      case SECOND_KILLER: {
        const killer = killers[(ply << 1) | (node.stage - FIRST_KILLER)];
        node.stage++;
        if (node.isQuietSkipped || killer == 0 || killer == node.tableMove) break;
        if (!isPseudoLegal(killer) || isTactical(killer)) break;
        node.lastScore = MOST_HISTORY;
        return killer;
      }
      case MAKE_QUIET: {
        if (node.isQuietSkipped) {
          node.stage = MAKE_CHECKS;
          break;
        }
        const start = node.end;
        const end = generate(start, QUIET);
        for (let i = start; i < end; i++) MOVE_SCORES[i] = quietScore(MOVE_LIST[i], ply);
        node.current = start;
        node.end = end;
        node.stage = QUIETS;
        break;
      }
      case QUIETS: {
        const at = node.current;
        if (at == node.end) {
          node.stage = BAD_TACTICAL;
          node.current = node.first;
          break;
        }
        if (node.isQuietSkipped) {
          node.stage = MAKE_CHECKS;
          break;
        }
        const move = pick(at, node.end);
        node.current = at + 1;
        if (move == node.tableMove || isKiller(move, ply)) break;
        node.lastScore = MOVE_SCORES[at];
        return move;
      }
      case BAD_TACTICAL: {
        const at = node.current;
        if (at == node.badEnd) {
          node.stage = NO_MORE;
          break;
        }
        node.current = at + 1;
        node.lastScore = -MOST_HISTORY;
        return MOVE_LIST[at];
      }
      case MAKE_CHECKS:
        // what was tried before the others were given up may come a second time, and ends in the table
        node.current = node.end;
        node.end = generateChecks(node.current, node.only != 0);
        node.stage = CHECKS;
        break;
      case CHECKS: {
        const at = node.current;
        if (at == node.end) {
          node.stage = node.only == 0 ? BAD_TACTICAL : NO_MORE;
          node.current = node.first;
          break;
        }
        node.current = at + 1;
        node.lastScore = 0;
        if (MOVE_LIST[at] == node.tableMove) break;
        if (!winsAtLeast(MOVE_LIST[at], 0)) break;
        return MOVE_LIST[at];
      }
    }
  return 0;
}

/** Scores are compared with their place in one number: the higher score wins, of equal ones the first. */
const PLACES: i32 = 10;
const LAST_PLACE: i32 = (1 << PLACES) - 1;
const LEAST: i32 = -(1 << 21);

/** Brings the best of the moves left to index `at`. */
export function pick(at: i32, until: i32): i32 {
  if (until - at == 1) return MOVE_LIST[at];
  const scores = changetype<usize>(MOVE_SCORES);
  // the last lanes may lie beyond the end
  v128.store(scores + (<usize>until << 2), i32x4.splat(LEAST));
  let most = i32x4.splat(<i32>0x80000000);
  let places = i32x4(LAST_PLACE, LAST_PLACE - 1, LAST_PLACE - 2, LAST_PLACE - 3);
  for (let i = at; i < until; i += 4) {
    const four = i32x4.add(i32x4.shl(v128.load(scores + (<usize>i << 2)), PLACES), places);
    most = i32x4.max_s(most, four);
    places = i32x4.sub(places, i32x4.splat(4));
  }
  most = i32x4.max_s(most, i8x16.shuffle(most, most, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7));
  most = i32x4.max_s(most, i8x16.shuffle(most, most, 4, 5, 6, 7, 0, 1, 2, 3, 12, 13, 14, 15, 8, 9, 10, 11));
  const best = at + LAST_PLACE - (i32x4.extract_lane(most, 0) & LAST_PLACE);
  const move = MOVE_LIST[best];
  const score = MOVE_SCORES[best];
  MOVE_LIST[best] = MOVE_LIST[at];
  MOVE_SCORES[best] = MOVE_SCORES[at];
  MOVE_LIST[at] = move;
  MOVE_SCORES[at] = score;
  return move;
}

function tacticalScore(move: i32): i32 {
  return tacticalGain(move) * 24 + captureHistory[(moveIndex(move) << 4) | capturedType(move)];
}

function quietScore(move: i32, ply: i32): i32 {
  const index = moveIndex(move);
  let score = <i32>history[index];
  const reply = ledBy[ply];
  if (reply >= 0) score += continuation[reply * MOVE_INDEXES + index];
  const before = ply > 0 ? ledBy[ply - 1] : -1;
  if (before >= 0) score += continuation[before * MOVE_INDEXES + index];
  return score;
}

/** All pseudo-legal moves in the order of their promise, for the root. */
export function orderAll(start: i32): i32 {
  const until = generate(start, ALL_MOVES);
  for (let i = start; i < until; i++) {
    const move = MOVE_LIST[i];
    MOVE_SCORES[i] = isTactical(move) ? (winsAtLeast(move, 0) ? 1 << 20 : -(1 << 20)) + tacticalScore(move) : quietScore(move, 0);
  }
  return until;
}

// @ts-ignore: decorator
@inline function moved(value: i32, bonus: i32): i16 {
  return <i16>(value + bonus - (value * abs(bonus)) / MOST_HISTORY);
}

function creditQuiet(move: i32, ply: i32, bonus: i32): void {
  const index = moveIndex(move);
  history[index] = moved(history[index], bonus);
  const reply = ledBy[ply];
  if (reply >= 0) {
    const at = reply * MOVE_INDEXES + index;
    continuation[at] = moved(continuation[at], bonus);
  }
  const before = ply > 0 ? ledBy[ply - 1] : -1;
  if (before >= 0) {
    const at = before * MOVE_INDEXES + index;
    continuation[at] = moved(continuation[at], bonus);
  }
}

function creditTactical(move: i32, bonus: i32): void {
  const at = (moveIndex(move) << 4) | capturedType(move);
  captureHistory[at] = moved(captureHistory[at], bonus);
}

/** Moves tried at each ply before the one that cut off. */
const MOST_TRIED: i32 = 64;
const tried = new StaticArray<i32>(PLIES * MOST_TRIED);
const triedCount = new StaticArray<i32>(PLIES);

export function forgetTried(ply: i32): void {
  triedCount[ply] = 0;
}

export function noteTried(ply: i32, move: i32): void {
  const count = triedCount[ply];
  if (count == MOST_TRIED) return;
  tried[ply * MOST_TRIED + count] = move;
  triedCount[ply] = count + 1;
}

/** Learns from a move that was too good for the other side, and from those tried before it in vain. */
export function learn(move: i32, depth: i32, ply: i32): void {
  const bonus = min(LEARN_MOST, LEARN_SQUARE * depth * depth + LEARN_PLY * depth);
  const tactical = isTactical(move);
  if (tactical) creditTactical(move, bonus);
  else {
    if (killers[ply << 1] != move) {
      killers[(ply << 1) | 1] = killers[ply << 1];
      killers[ply << 1] = move;
    }
    creditQuiet(move, ply, bonus);
  }
  for (let i = 0; i < triedCount[ply]; i++) {
    const other = tried[ply * MOST_TRIED + i];
    if (other == move) continue;
    if (isTactical(other)) creditTactical(other, -bonus);
    else if (!tactical) creditQuiet(other, ply, -bonus);
  }
}
