import { evaluate, forgetEvaluations } from './evaluation';
import { poll, report } from './host';
import {
  ABOVE,
  BELOW,
  BELOW_SQUARE,
  CAPTURE,
  HISTORY_PLY,
  HOPELESS,
  HOPELESS_PLY,
  PASS,
  QUIET_LOSS,
  QUIETS,
  QUIETS_LEAST,
  REDUCTION,
  REDUCTION_GROWTH,
  SINGULAR,
  TACTICAL_LOSS,
  UNPROMISING,
  WINDOW,
} from './margins';
import { findMate, mateLine, mateNodes } from './mate';
import { ALL_MOVES, GAME_PLIES, MOVE_LIST } from './moves';
import {
  clearOrdering,
  forgetTried,
  isBadTactical,
  isQuietCheck,
  learn,
  ledBy,
  movesEnd,
  nextMove,
  noteTried,
  openMoves,
  orderAll,
  pick,
  scoreOfLast,
  skipQuiets,
} from './ordering';
import {
  currentKey,
  DECIDED,
  generate,
  hasPieces,
  inCheck,
  isDrawn,
  isPointlessMove,
  isTactical,
  keys,
  leaveOutPointless,
  makeMove,
  makeNull,
  moveIndex,
  PERPETUAL_LOSES,
  reversiblePlies,
  side,
  SINGULAR_FROM,
  tacticalGain,
  undoMove,
  undoNull,
  UNGUIDED_FROM,
  winsAtLeast,
} from './rules';
import {
  clearTable,
  growOlder,
  probe,
  storeEntry,
  tableBound,
  tableDepth,
  tableEvaluation,
  tableMove,
  tableScore,
} from './table';

/** Scores: hundredths of a pawn for the side to move; beyond MATE_BOUND, MATE less the plies to mate. */
const MATE: i32 = 32000;
const MATE_BOUND: i32 = 31000;
const INFINITE: i32 = 32500;
/** A repetition that loses for giving perpetual check: as good as lost, but no mate. */
const PERPETUAL: i32 = 20000;
/** Scores beyond this are no evaluation. */
const PROVED: i32 = 15000;
const MOST_PLY: i32 = 126;
const MOST_LINES: i32 = 500;
const UNKNOWN: i32 = -32768;
/** Depths at which every node asks for what earlier searches found deeper: few nodes yet, and most of it known. */
const RECALLED: i32 = 9;
/** Whether there were earlier searches since the table was cleared, and whether every node asks now. */
let hasSearched: bool = false;
let isRecalling: bool = false;

const EXACT: i32 = 1;
const LOWER: i32 = 2;
const UPPER: i32 = 3;

let nodes: u64 = 0;
let nodeLimit: u64 = 0;
let stopped: bool = false;
let deepest: i32 = 0;
let completedDepth: i32 = 0;
let iteration: i32 = 0;
/** A helper begins a depth ahead of every other thread, so that threads do not all do the same. */
let headStart: i32 = 0;
/** Full width to the depth asked for, and quiescence: nothing is left out, looked at less or more deeply. */
let isPlain: bool = false;

/** How many of its moves in a row the side that just moved has given check with. */
const checksInRow = new StaticArray<i32>(GAME_PLIES);
const evaluations = new StaticArray<i32>(GAME_PLIES);
/** A move left out at a ply, to see whether the others come near it. */
const leftOut = new StaticArray<i32>(GAME_PLIES);
const principal = new StaticArray<i32>(129 * 129);
const principalLength = new StaticArray<i32>(129);

/** Positions that end the game when they come up again: key, and the side that has kept giving check (2: none). */
const repeatedKeys = new StaticArray<u64>(64);
const repeatedCheckers = new StaticArray<i32>(64);
let repeatedCount: i32 = 0;

/** Plies by which late moves are searched less, by depth and number of the move. */
const REDUCTIONS = new StaticArray<u8>(64 * 64);

export function initSearch(): void {
  for (let depth = 1; depth < 64; depth++)
    for (let number = 1; number < 64; number++)
      REDUCTIONS[(depth << 6) | number] = <u8>(
        (<f64>REDUCTION / 100.0 +
          Math.log(<f64>depth) * Math.log(<f64>number) * (<f64>REDUCTION_GROWTH / 100.0))
      );
}

const rootMoves = new StaticArray<i32>(640);
let rootCount: i32 = 0;
/** The moves to choose from, where not all. */
const onlyMoves = new StaticArray<i32>(640);
let onlyCount: i32 = 0;

/** Lines of the last complete depth, best first: score, length and moves. */
const lineScores = new StaticArray<i32>(MOST_LINES);
const lineLengths = new StaticArray<i32>(MOST_LINES);
const lineMoves = new StaticArray<i32>(MOST_LINES * 128);
const newScores = new StaticArray<i32>(MOST_LINES);
const newLengths = new StaticArray<i32>(MOST_LINES);
const newMoves = new StaticArray<i32>(MOST_LINES * 128);
let lineCount: i32 = 0;

/** Mates that have been proved for root moves: never withdrawn, whatever a deeper search cuts away. */
const MOST_PROVED: i32 = 32;
const provedMoves = new StaticArray<i32>(MOST_PROVED);
const provedScores = new StaticArray<i32>(MOST_PROVED);
const provedLengths = new StaticArray<i32>(MOST_PROVED);
const provedLines = new StaticArray<i32>(MOST_PROVED * 128);
let provedCount: i32 = 0;

/** Keeps a mate found for the first of the root moves from `line` on. */
function keepProved(line: i32, score: i32): void {
  const move = rootMoves[line];
  let at = 0;
  while (at < provedCount && provedMoves[at] != move) at++;
  if (at == MOST_PROVED || (at < provedCount && provedScores[at] >= score)) return;
  if (at == provedCount) provedCount++;
  provedMoves[at] = move;
  provedScores[at] = score;
  provedLengths[at] = min(principalLength[0], 128);
  for (let i = 0; i < provedLengths[at]; i++) provedLines[at * 128 + i] = principal[i];
}

/** Positions that the search for mates may expand: before all else, once there is time, and as a part of all nodes. */
const FIRST_MATES: i32 = 3000;
const MORE_MATES: i32 = 20000;
const MORE_MATES_DEPTH: i32 = 10;
const MATE_SHARE: u64 = 200;

/** Of a number of positions, as many as the search for mates may expand here. */
function mateShare(most: i32): i32 {
  return nodeLimit == 0 ? most : <i32>min(<u64>most, nodeLimit / MATE_SHARE);
}

/** In shogi, where mates by check are long, looks for one apart from the search. */
function proveMate(most: i32): void {
  const length = findMate(most, nodes);
  nodes += mateNodes();
  if (length == 0) return;
  let at = 0;
  while (rootMoves[at] != mateLine[0]) at++;
  for (; at > 0; at--) rootMoves[at] = rootMoves[at - 1];
  rootMoves[0] = mateLine[0];
  principalLength[0] = length;
  for (let i = 0; i < length; i++) principal[i] = mateLine[i];
  keepProved(0, MATE - length);
}

/** Puts a proved mate of a move from `line` on in place of a lesser result; returns the score that counts. */
function bestProved(line: i32, score: i32): i32 {
  let best = -1;
  let place = line;
  for (let at = 0; at < provedCount; at++) {
    if (provedScores[at] <= score || (best >= 0 && provedScores[at] <= provedScores[best])) continue;
    for (let i = line; i < rootCount; i++)
      if (rootMoves[i] == provedMoves[at]) {
        best = at;
        place = i;
      }
  }
  if (best < 0) return score;
  for (let i = place; i > line; i--) rootMoves[i] = rootMoves[i - 1];
  rootMoves[line] = provedMoves[best];
  principalLength[0] = provedLengths[best];
  for (let i = 0; i < provedLengths[best]; i++) principal[i] = provedLines[best * 128 + i];
  return provedScores[best];
}

export function setHeadStart(plies: i32): void {
  headStart = plies;
}

export function forgetRepeated(): void {
  repeatedCount = 0;
}

/** Marks the position now set up as one that ends the game when it comes up again. */
export function addRepeated(checker: i32): void {
  if (repeatedCount == 64) return;
  repeatedKeys[repeatedCount] = currentKey();
  repeatedCheckers[repeatedCount++] = checker;
}

export function forgetOnly(): void {
  onlyCount = 0;
}

export function addOnly(move: i32): void {
  if (onlyCount < 640) onlyMoves[onlyCount++] = move;
}

/** Forgets all that earlier searches learnt, so that the next depends on nothing but its own input. */
export function clearMemory(): void {
  clearTable();
  clearOrdering();
  forgetEvaluations();
  hasSearched = false;
}

function checkStop(): void {
  if (completedDepth == 0) return;
  if (nodeLimit != 0 && nodes >= nodeLimit) stopped = true;
  else if ((nodes & 1023) == 0 && poll(<f64>nodes) != 0) stopped = true;
}

/** The value of a repeated position for the side to move, or 1 where it is none. */
function repetitionValue(ply: i32): i32 {
  const key = keys[ply];
  const first = max(0, ply - reversiblePlies());
  for (let earlier = ply - 4; earlier >= first; earlier -= 2)
    if (keys[earlier] == key) return repetitionScore(ply, (ply - earlier) >> 1, 2);
  for (let i = 0; i < repeatedCount; i++)
    if (repeatedKeys[i] == key && ply > 0)
      return repetitionScore(ply, (ply + 1) >> 1, repeatedCheckers[i]);
  return 1;
}

/** `moves`: how many moves each side made in the cycle; `earlier`: who gave check all the while before the root. */
function repetitionScore(ply: i32, moves: i32, earlier: i32): i32 {
  if (!PERPETUAL_LOSES) return 0;
  const fits = earlier == 2 || moves <= (ply + 1) >> 1;
  if (fits && checksInRow[ply] >= moves && (earlier == 2 || earlier == 1 - side))
    return PERPETUAL - ply;
  if (fits && ply > 0 && checksInRow[ply - 1] >= moves && (earlier == 2 || earlier == side))
    return ply - PERPETUAL;
  return 0;
}

function countChecks(ply: i32, checked: bool): void {
  if (PERPETUAL_LOSES) checksInRow[ply] = checked ? (ply >= 2 ? checksInRow[ply - 2] : 0) + 1 : 0;
}

/** Captures, promotions and answers to checks until the position is quiet; `left`: 0 where quiet checks are tried too. */
function quiesce(alpha: i32, beta: i32, ply: i32, start: i32, left: i32): i32 {
  nodes++;
  checkStop();
  if (stopped) return 0;
  if (ply > deepest) deepest = ply;
  const checked = inCheck();
  if (isDrawn() && !checked) return 0;
  if (ply >= MOST_PLY) return evaluate();
  const key = keys[ply];
  const wide = beta - alpha > 1;
  let fromTable = 0;
  let evaluation = UNKNOWN;
  if (probe(key, isRecalling ? MOST_PLY : 0)) {
    const score = valueFromTable(tableScore(), ply);
    const bound = tableBound();
    if (!wide && (bound == EXACT || (bound == LOWER && score >= beta) || (bound == UPPER && score <= alpha)))
      return score;
    fromTable = tableMove();
    evaluation = tableEvaluation();
  }
  const evade = checked && left > -4;
  let best = -INFINITE;
  let standing = -INFINITE;
  if (!evade) {
    if (isMissing(evaluation)) evaluation = evaluate();
    standing = evaluation;
    best = standing;
    if (best >= beta) return best;
    if (best > alpha) alpha = best;
  } else evaluation = 0;
  openMoves(ply, start, fromTable, evade ? 0 : left == 0 ? 2 : 1);
  let bestMove = 0;
  let legal = 0;
  let bound = UPPER;
  for (;;) {
    const move = nextMove(ply);
    if (move == 0) break;
    if (!evade) {
      if (isBadTactical(ply)) break;
      if (isTactical(move)) {
        const most = standing + tacticalGain(move) + CAPTURE;
        if (most <= alpha) {
          if (most > best) best = most;
          continue;
        }
      }
    } else if (legal > 0 && best > -MATE_BOUND && !isTactical(move) && left < 0) break;
    const index = moveIndex(move);
    if (!makeMove(move)) continue;
    legal++;
    ledBy[ply + 1] = index;
    const score = -quiesce(-beta, -alpha, ply + 1, movesEnd(ply), left - 1);
    undoMove();
    if (stopped) return 0;
    if (score > best) {
      best = score;
      if (score > alpha) {
        alpha = score;
        bestMove = move;
        bound = EXACT;
        if (score >= beta) {
          bound = LOWER;
          break;
        }
      }
    }
  }
  if (evade && legal == 0) return ply - MATE;
  storeEntry(key, bestMove, valueForTable(best, ply), 0, bound == EXACT && !wide ? UPPER : bound, evaluation);
  return best;
}

function valueForTable(score: i32, ply: i32): i32 {
  return score > MATE_BOUND ? score + ply : score < -MATE_BOUND ? score - ply : score;
}

function valueFromTable(score: i32, ply: i32): i32 {
  return score > MATE_BOUND ? score - ply : score < -MATE_BOUND ? score + ply : score;
}

/** Whether an evaluation is not known, or was too large for the table. */
function isMissing(evaluation: i32): bool {
  return evaluation <= -8190 || evaluation >= 8190;
}

/** Quiet moves that are tried at a depth before the rest is given up. */
function quietsTried(depth: i32, improving: bool): i32 {
  const most = QUIETS_LEAST + (depth * depth * QUIETS) / 100;
  return improving ? most : most / 2 + 1;
}

/**
 * The score of the position to a depth, exact within (alpha, beta).
 * @param cut a node that is expected to be too good for the other side
 */
function search(alpha: i32, beta: i32, depth: i32, ply: i32, start: i32, mayPass: bool, cut: bool): i32 {
  principalLength[ply] = 0;
  const checked = inCheck();
  countChecks(ply, checked);
  const repetition = repetitionValue(ply);
  if (repetition != 1) return repetition;
  if (checked && !isPlain && ply < 2 * iteration) depth++;
  if (depth <= 0) return quiesce(alpha, beta, ply, start, 0);
  nodes++;
  checkStop();
  if (stopped) return 0;
  const drawn = isDrawn();
  if (drawn && !checked) return 0;
  if (ply >= MOST_PLY) return evaluate();
  if (alpha < ply - MATE) alpha = ply - MATE;
  if (beta > MATE - ply - 1) beta = MATE - ply - 1;
  if (alpha >= beta) return alpha;
  const wide = beta - alpha > 1;
  const key = keys[ply];
  const without = leftOut[ply];
  let fromTable = 0;
  let knownScore = UNKNOWN;
  let knownDepth = -1;
  let knownBound = 0;
  let evaluation = UNKNOWN;
  if (probe(key, isRecalling ? MOST_PLY : depth)) {
    fromTable = tableMove();
    knownScore = valueFromTable(tableScore(), ply);
    knownDepth = tableDepth();
    knownBound = tableBound();
    evaluation = tableEvaluation();
    if (!wide && !drawn && without == 0 && (isPlain ? knownDepth == depth : knownDepth >= depth)) {
      if (
        knownBound == EXACT ||
        (knownBound == LOWER && knownScore >= beta) ||
        (knownBound == UPPER && knownScore <= alpha)
      )
        return knownScore;
    }
  }
  let standing = -INFINITE;
  if (!checked) {
    if (isMissing(evaluation)) evaluation = evaluate();
    standing = evaluation;
    evaluations[ply] = evaluation;
    if (
      knownScore != UNKNOWN &&
      abs(knownScore) < PROVED &&
      (knownBound == EXACT || (knownBound == LOWER ? knownScore > standing : knownScore < standing))
    )
      standing = knownScore;
  } else {
    evaluation = 0;
    evaluations[ply] = ply >= 2 ? evaluations[ply - 2] : 0;
  }
  const improving = !checked && (ply < 2 || evaluations[ply] > evaluations[ply - 2]);
  if (!isPlain && !wide && !checked && without == 0 && abs(beta) < DECIDED) {
    // what is far above the window will stay above it, what is far below below
    if (depth <= 8 && standing - ABOVE * (depth - (improving ? 1 : 0)) >= beta) return (standing + beta) / 2;
    if (depth <= 3 && standing + BELOW + BELOW_SQUARE * depth * depth <= alpha) {
      const score = quiesce(alpha, alpha + 1, ply, start, 0);
      if (stopped) return 0;
      if (score <= alpha) return score;
    }
    if (mayPass && depth >= 3 && standing >= beta && evaluation >= beta && hasPieces()) {
      const reduction = 3 + depth / 4 + min(3, (standing - beta) / PASS);
      makeNull();
      ledBy[ply + 1] = -1;
      let score = -search(-beta, 1 - beta, depth - reduction, ply + 1, start, false, !cut);
      undoNull();
      if (stopped) return 0;
      if (score >= beta) {
        if (score > PROVED) score = beta;
        if (depth < 12) return score;
        // at great depth the right to pass is looked into once more without it
        const verified = search(beta - 1, beta, depth - reduction, ply, start, false, false);
        if (stopped) return 0;
        if (verified >= beta) return score;
      }
    }
  }
  if (!isPlain && fromTable == 0 && depth >= UNGUIDED_FROM && (wide || cut)) depth--;
  let extension = 0;
  if (
    !isPlain &&
    depth >= SINGULAR_FROM &&
    without == 0 &&
    fromTable != 0 &&
    ply < 2 * iteration &&
    knownDepth >= depth - 3 &&
    knownBound != UPPER &&
    abs(knownScore) < PROVED
  ) {
    // a move that the others do not come near is looked at more deeply
    const target = knownScore - ((SINGULAR * depth) >> 2);
    leftOut[ply] = fromTable;
    const score = search(target - 1, target, (depth - 1) >> 1, ply, start, false, cut);
    leftOut[ply] = 0;
    if (stopped) return 0;
    if (score < target) extension = 1;
    else if (!wide && target >= beta) return target;
  }
  openMoves(ply, start, fromTable, 0);
  forgetTried(ply);
  let best = -INFINITE;
  let bestMove = 0;
  let bound = UPPER;
  let legal = 0;
  let quiets = 0;
  for (;;) {
    let reduction = <i32>REDUCTIONS[(min(depth, 63) << 6) | min(legal + 1, 63)];
    const lasting = max(0, depth - reduction);
    const mayLeaveOut = !isPlain && legal > 0 && best > -MATE_BOUND && !checked && alpha < DECIDED;
    if (mayLeaveOut && !wide) {
      const isHopeless = lasting <= 6 && standing + HOPELESS + HOPELESS_PLY * lasting <= alpha;
      if (isHopeless || quiets > quietsTried(depth, improving)) skipQuiets(ply);
    }
    const move = nextMove(ply);
    if (move == 0) break;
    if (move == without) continue;
    const tactical = isTactical(move);
    const worth = scoreOfLast(ply);
    if (mayLeaveOut) {
      if (isQuietCheck(ply)) {
        // a check is never left out for want of promise
      } else if (!tactical) {
        if (lasting <= 3 && worth < -UNPROMISING * depth) continue;
        if (lasting <= 6 && !winsAtLeast(move, -QUIET_LOSS * lasting * lasting)) continue;
      } else if (depth <= 6 && isBadTactical(ply) && !winsAtLeast(move, -TACTICAL_LOSS * depth)) continue;
    }
    const index = moveIndex(move);
    if (!makeMove(move)) continue;
    legal++;
    ledBy[ply + 1] = index;
    if (!tactical) quiets++;
    const givesCheck = inCheck();
    const next = depth - 1 + (move == fromTable ? extension : 0);
    const from = movesEnd(ply);
    let score = -INFINITE;
    if (legal == 1) score = -search(-beta, -alpha, next, ply + 1, from, true, !wide && !cut);
    else {
      if (!isPlain && depth >= 3 && alpha < PROVED && (!tactical || isBadTactical(ply))) {
        if (wide) reduction--;
        if (cut) reduction++;
        if (!improving) reduction++;
        if (givesCheck || checked) reduction--;
        if (!tactical) reduction -= max(-2, min(2, worth / HISTORY_PLY));
        reduction = max(0, min(reduction, next - 1));
      } else reduction = 0;
      score = -search(-alpha - 1, -alpha, next - reduction, ply + 1, from, true, true);
      if (score > alpha && reduction > 0)
        score = -search(-alpha - 1, -alpha, next, ply + 1, from, true, !cut);
      if (score > alpha && score < beta) score = -search(-beta, -alpha, next, ply + 1, from, true, false);
    }
    undoMove();
    if (stopped) return 0;
    noteTried(ply, move);
    if (score > best) {
      best = score;
      if (score > alpha) {
        bestMove = move;
        alpha = score;
        bound = EXACT;
        if (wide) extendPrincipal(ply, move);
        if (score >= beta) {
          bound = LOWER;
          learn(move, depth, ply);
          break;
        }
      }
    }
  }
  if (legal == 0) {
    if (without != 0) return alpha;
    return checked || PERPETUAL_LOSES ? ply - MATE : 0;
  }
  if (drawn) return 0;
  if (without == 0) storeEntry(key, bestMove, valueForTable(best, ply), depth, bound, evaluation);
  return best;
}

function extendPrincipal(ply: i32, move: i32): void {
  const base = ply * 129;
  const next = (ply + 1) * 129;
  const length = principalLength[ply + 1];
  principal[base] = move;
  for (let i = 0; i < length; i++) principal[base + 1 + i] = principal[next + i];
  principalLength[ply] = length + 1;
}

/**
 * Searches the root moves from `first` on and leaves the best of them at `first`; returns its exact score, found
 * through windows around `expected` that are widened until they hold it.
 */
function searchRoot(first: i32, depth: i32, expected: i32): i32 {
  let low = depth < 4 ? -INFINITE : max(-INFINITE, expected - WINDOW);
  let high = depth < 4 ? INFINITE : min(INFINITE, expected + WINDOW);
  let width = WINDOW * 4;
  while (true) {
    const score = searchRootWindow(first, depth, low, high);
    if (stopped) return 0;
    if (score <= low && low > -INFINITE)
      low = width > 1000 ? -INFINITE : max(-INFINITE, score - width);
    else if (score >= high && high < INFINITE)
      high = width > 1000 ? INFINITE : min(INFINITE, score + width);
    else return score;
    width *= 4;
  }
}

/** Of the depth that is being searched: the exact score of the best move so far; UNKNOWN while there is none. */
let scoreSoFar: i32 = UNKNOWN;

function searchRootWindow(first: i32, depth: i32, low: i32, high: i32): i32 {
  scoreSoFar = UNKNOWN;
  let best = -INFINITE;
  let alpha = low;
  for (let i = first; i < rootCount; i++) {
    const move = rootMoves[i];
    ledBy[1] = moveIndex(move);
    makeMove(move);
    principalLength[1] = 0;
    let score: i32;
    if (i == first) score = -search(-high, -alpha, depth - 1, 1, 0, true, false);
    else {
      score = -search(-alpha - 1, -alpha, depth - 1, 1, 0, true, true);
      if (!stopped && score > alpha && score < high) {
        principalLength[1] = 0;
        score = -search(-high, -alpha, depth - 1, 1, 0, true, false);
      }
    }
    undoMove();
    if (stopped) return 0;
    if (score <= best) continue;
    best = score;
    if (score <= alpha) continue;
    alpha = score;
    extendPrincipal(0, move);
    for (let k = i; k > first; k--) rootMoves[k] = rootMoves[k - 1];
    rootMoves[first] = move;
    if (score >= high) break;
    scoreSoFar = score;
  }
  return best;
}

/** A promotion declined without a reason is among them where it is asked for, or where it leads to a repetition that counts. */
function listRootMoves(): void {
  rootCount = 0;
  ledBy[0] = -1;
  leaveOutPointless(false);
  const end = orderAll(0);
  for (let i = 0; i < end; i++) {
    const move = pick(i, end);
    if (onlyCount > 0 && !isAsked(move)) continue;
    const isPointless = onlyCount == 0 && isPointlessMove(move);
    if (!makeMove(move)) continue;
    const isKept = !isPointless || isRepeated(currentKey());
    undoMove();
    if (isKept) rootMoves[rootCount++] = move;
  }
  leaveOutPointless(true);
}

function isRepeated(key: u64): bool {
  for (let i = 0; i < repeatedCount; i++) if (repeatedKeys[i] == key) return true;
  return false;
}

function isAsked(move: i32): bool {
  for (let i = 0; i < onlyCount; i++) if (onlyMoves[i] == move) return true;
  return false;
}

/**
 * Searches the position set up, deeper and deeper, until a limit is reached or the host says stop, and reports each
 * complete depth. Lines are all searched to the same depth; a single one is kept from a depth that was broken off, once it is known. Returns the number of lines found.
 * @param mostDepth plies, 1–126; @param mostNodes 0 for no limit
 * @param plain full width to the depth, and quiescence: what lies no further ahead is seen, and nothing else
 */
export function think(mostDepth: i32, mostNodes: f64, lines: i32, plain: bool): i32 {
  isPlain = plain;
  nodes = 0;
  nodeLimit = <u64>mostNodes;
  stopped = false;
  deepest = 0;
  completedDepth = 0;
  lineCount = 0;
  provedCount = 0;
  growOlder();
  const isWarm = hasSearched;
  hasSearched = true;
  for (let i = 0; i < GAME_PLIES; i++) leftOut[i] = 0;
  countChecks(0, inCheck());
  evaluations[0] = inCheck() ? 0 : evaluate();
  listRootMoves();
  const wanted = min(min(lines, rootCount), MOST_LINES);
  if (wanted == 0) return 0;
  const looksForMates = PERPETUAL_LOSES && !plain && onlyCount == 0 && headStart == 0;
  if (looksForMates) proveMate(mateShare(FIRST_MATES));
  for (let depth = 1 + headStart; depth <= min(mostDepth, MOST_PLY - 1); depth++) {
    iteration = depth;
    isRecalling = isWarm && !plain && depth <= RECALLED;
    if (looksForMates && depth == MORE_MATES_DEPTH && provedCount == 0 && mateShare(MORE_MATES) > FIRST_MATES)
      proveMate(mateShare(MORE_MATES));
    for (let line = 0; line < wanted; line++) {
      const score = searchRoot(line, depth, line < lineCount ? lineScores[line] : 0);
      if (stopped) {
        if (wanted == 1 && scoreSoFar != UNKNOWN) keepSoFar();
        return lineCount;
      }
      if (score > MATE_BOUND) keepProved(line, score);
      insertLine(line, bestProved(line, score));
    }
    keepLines(wanted);
    completedDepth = depth;
    report(depth, deepest, <f64>nodes);
    if (nodeLimit != 0 && nodes >= nodeLimit) break;
    if (isDecided(depth)) break;
  }
  return lineCount;
}

/**
 * Keeps what a depth that was broken off has found: the first move it looked at was the best until then, so that what is best by now was
 * compared with it, and is known more deeply than before.
 */
function keepSoFar(): void {
  if (scoreSoFar > MATE_BOUND) keepProved(0, scoreSoFar);
  insertLine(0, bestProved(0, scoreSoFar));
  keepLines(1);
}

/** All lines end in mates that a deeper search can't shorten. */
function isDecided(depth: i32): bool {
  for (let i = 0; i < lineCount; i++) {
    const distance = MATE - abs(lineScores[i]);
    if (abs(lineScores[i]) < MATE_BOUND || distance > depth - 4) return false;
  }
  return true;
}

/** Puts the line just found among the earlier ones of this depth, best first. */
function insertLine(count: i32, score: i32): void {
  let at = count;
  while (at > 0 && newScores[at - 1] < score) {
    newScores[at] = newScores[at - 1];
    newLengths[at] = newLengths[at - 1];
    memory.copy(
      changetype<usize>(newMoves) + at * 512,
      changetype<usize>(newMoves) + (at - 1) * 512,
      512,
    );
    at--;
  }
  newScores[at] = score;
  const length = min(principalLength[0], 128);
  newLengths[at] = length;
  for (let i = 0; i < length; i++) newMoves[at * 128 + i] = principal[i];
  for (let k = count; k > at; k--) {
    const move = rootMoves[k];
    rootMoves[k] = rootMoves[k - 1];
    rootMoves[k - 1] = move;
  }
}

function keepLines(count: i32): void {
  lineCount = count;
  for (let i = 0; i < count; i++) {
    lineScores[i] = newScores[i];
    lineLengths[i] = newLengths[i];
    for (let k = 0; k < newLengths[i]; k++) lineMoves[i * 128 + k] = newMoves[i * 128 + k];
  }
}

export function linesFound(): i32 {
  return lineCount;
}

export function scoreOfLine(line: i32): i32 {
  return lineScores[line];
}

export function lengthOfLine(line: i32): i32 {
  return lineLengths[line];
}

export function moveOfLine(line: i32, index: i32): i32 {
  return lineMoves[line * 128 + index];
}

export function nodesSearched(): f64 {
  return <f64>nodes;
}

/** Counts the lines of `depth` plies from the position set up, playing and taking back every last move. */
export function perft(depth: i32): f64 {
  leaveOutPointless(false);
  return <f64>countLines(depth, 0);
}

function countLines(depth: i32, start: i32): u64 {
  const end = generate(start, ALL_MOVES);
  let count: u64 = 0;
  for (let i = start; i < end; i++) {
    if (!makeMove(MOVE_LIST[i])) continue;
    count += depth <= 1 ? 1 : countLines(depth - 1, end);
    undoMove();
  }
  return count;
}
