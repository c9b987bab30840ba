import { poll, report } from './host';
import { MOVE_LIST, MOVE_SCORES, toOf } from './moves';
import {
  captureValue,
  currentKey,
  evaluate,
  GAME_PLIES,
  generate,
  hasPieces,
  inCheck,
  isDrawn,
  isTactical,
  makeMove,
  makeNull,
  movedPiece,
  PERPETUAL_LOSES,
  reversiblePlies,
  side,
  tacticalGain,
  undoMove,
  undoNull,
} from './rules';
import {
  clearTable,
  probe,
  storeEntry,
  tableBound,
  tableDepth,
  tableMove,
  tableScore,
} from './table';

/** Scores: hundredths of a pawn for the side to move; beyond MATE_BOUND, MATE less the plies to mate. */
const MATE: i32 = 32000;
const MATE_BOUND: i32 = 31000;
const INFINITE: i32 = 32500;
/** A repetition that loses for giving perpetual check: as good as lost, but no mate. */
const PERPETUAL: i32 = 20000;
const MOST_PLY: i32 = 127;
const MOST_LINES: i32 = 500;

const EXACT: i32 = 1;
const LOWER: i32 = 2;
const UPPER: i32 = 3;

let nodes: u64 = 0;
let nodeLimit: u64 = 0;
let stopped: bool = false;
let deepest: i32 = 0;
let completedDepth: i32 = 0;

const lineKeys = new StaticArray<u64>(GAME_PLIES);
/** How many of its moves in a row the side that just moved has given check with. */
const checksInRow = new StaticArray<i32>(GAME_PLIES);
const killers = new StaticArray<i32>(2 * 128);
const history = new StaticArray<i32>(32 * 128);
const principal = new StaticArray<i32>(129 * 129);
const principalLength = new StaticArray<i32>(129);

/** Positions that end the game when they come up again: key, and the side that has kept giving check (2: none). */
const repeatedKeys = new StaticArray<u64>(64);
const repeatedCheckers = new StaticArray<i32>(64);
let repeatedCount: i32 = 0;

/** Plies by which late quiet moves are searched less, by depth and number of the move. */
const REDUCTIONS = new StaticArray<i32>(32 * 64);

export function initSearch(): void {
  for (let depth = 1; depth < 32; depth++)
    for (let number = 1; number < 64; number++)
      REDUCTIONS[(depth << 6) | number] = <i32>(
        (0.6 + Math.log(<f64>depth) * Math.log(<f64>number) * 0.5)
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
  for (let i = 0; i < killers.length; i++) killers[i] = 0;
  for (let i = 0; i < history.length; i++) history[i] = 0;
}

function checkStop(): void {
  if (completedDepth == 0) return;
  if (nodeLimit != 0 && nodes >= nodeLimit) stopped = true;
  else if ((nodes & 1023) == 0 && poll(<f64>nodes) != 0) stopped = true;
}

/** The value of a repeated position for the side to move, or 1 where it is none. */
function repetitionValue(ply: i32): i32 {
  const key = lineKeys[ply];
  const first = max(0, ply - reversiblePlies());
  for (let earlier = ply - 4; earlier >= first; earlier -= 2)
    if (lineKeys[earlier] == key) return repetitionScore(ply, (ply - earlier) >> 1, 2);
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

function enter(ply: i32, checked: bool): void {
  lineKeys[ply] = currentKey();
  checksInRow[ply] = checked ? (ply >= 2 ? checksInRow[ply - 2] : 0) + 1 : 0;
}

function scoreMoves(start: i32, end: i32, hashMove: i32, ply: i32): void {
  for (let i = start; i < end; i++) {
    const move = MOVE_LIST[i];
    if (move == hashMove) MOVE_SCORES[i] = 1 << 30;
    else if (isTactical(move)) MOVE_SCORES[i] = (1 << 24) + tacticalGain(move);
    else if (move == killers[ply * 2]) MOVE_SCORES[i] = (1 << 23) + 1;
    else if (move == killers[ply * 2 + 1]) MOVE_SCORES[i] = 1 << 23;
    else MOVE_SCORES[i] = history[(movedPiece(move) << 7) | toOf(move)];
  }
}

/** Brings the best of the moves left to index `at`. */
function pick(at: i32, end: i32): i32 {
  let best = at;
  for (let i = at + 1; i < end; i++) if (MOVE_SCORES[i] > MOVE_SCORES[best]) best = i;
  const move = MOVE_LIST[best];
  const score = MOVE_SCORES[best];
  MOVE_LIST[best] = MOVE_LIST[at];
  MOVE_SCORES[best] = MOVE_SCORES[at];
  MOVE_LIST[at] = move;
  MOVE_SCORES[at] = score;
  return move;
}

function quiesce(alpha: i32, beta: i32, ply: i32, start: i32, left: i32): i32 {
  nodes++;
  checkStop();
  if (stopped) return 0;
  if (ply > deepest) deepest = ply;
  const checked = inCheck();
  enter(ply, checked);
  if (isDrawn() && !checked) return 0;
  const evade = checked && left > -2;
  let best = -INFINITE;
  if (ply >= MOST_PLY) return evaluate();
  const standing = evaluate();
  if (!evade) {
    best = standing;
    if (best >= beta) return best;
    if (best > alpha) alpha = best;
  }
  const end = generate(start, !evade);
  scoreMoves(start, end, 0, ply);
  let legal = 0;
  for (let i = start; i < end; i++) {
    const move = pick(i, end);
    if (!evade && standing + captureValue(move) + 150 <= alpha) {
      if (standing + captureValue(move) + 150 > best) best = standing + captureValue(move) + 150;
      continue;
    }
    if (!makeMove(move)) continue;
    legal++;
    const score = -quiesce(-beta, -alpha, ply + 1, end, left - 1);
    undoMove();
    if (stopped) return 0;
    if (score > best) {
      best = score;
      if (score > alpha) alpha = score;
      if (score >= beta) return best;
    }
  }
  if (evade && legal == 0) return ply - MATE;
  return best;
}

function toTable(score: i32, ply: i32): i32 {
  return score > MATE_BOUND ? score + ply : score < -MATE_BOUND ? score - ply : score;
}

function fromTable(score: i32, ply: i32): i32 {
  return score > MATE_BOUND ? score - ply : score < -MATE_BOUND ? score + ply : score;
}

function remember(move: i32, depth: i32, ply: i32): void {
  if (killers[ply * 2] != move) {
    killers[ply * 2 + 1] = killers[ply * 2];
    killers[ply * 2] = move;
  }
  const index = (movedPiece(move) << 7) | toOf(move);
  history[index] += depth * depth;
  if (history[index] > 1 << 20) for (let i = 0; i < history.length; i++) history[i] >>= 1;
}

function search(alpha: i32, beta: i32, depth: i32, ply: i32, start: i32, mayPass: bool): i32 {
  principalLength[ply] = 0;
  const checked = inCheck();
  enter(ply, checked);
  const repetition = repetitionValue(ply);
  if (repetition != 1) return repetition;
  if (checked) depth++;
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
  const key = currentKey();
  let hashMove = 0;
  if (probe(key)) {
    hashMove = tableMove();
    if (!wide && !drawn && tableDepth() >= depth) {
      const score = fromTable(tableScore(), ply);
      const bound = tableBound();
      if (bound == EXACT || (bound == LOWER && score >= beta) || (bound == UPPER && score <= alpha))
        return score;
    }
  }
  const standing = checked ? -INFINITE : evaluate();
  if (!wide && !checked && abs(beta) < MATE_BOUND) {
    if (depth <= 4 && standing - depth * 110 >= beta) return standing;
    if (mayPass && depth >= 3 && standing >= beta && hasPieces()) {
      makeNull();
      const reduction = 2 + depth / 5;
      const score = -search(-beta, 1 - beta, depth - 1 - reduction, ply + 1, start, false);
      undoNull();
      if (stopped) return 0;
      if (score >= beta) return score > MATE_BOUND ? beta : score;
    }
  }
  const end = generate(start, false);
  scoreMoves(start, end, hashMove, ply);
  let best = -INFINITE;
  let bestMove = 0;
  let bound = UPPER;
  let legal = 0;
  for (let i = start; i < end; i++) {
    const move = pick(i, end);
    const tactical = isTactical(move);
    if (!wide && !checked && !tactical && legal > 0 && best > -MATE_BOUND && depth <= 3) {
      if (standing + 120 * depth <= alpha || legal > 6 + 6 * depth * depth) continue;
    }
    if (!makeMove(move)) continue;
    legal++;
    let score: i32;
    if (legal == 1) score = -search(-beta, -alpha, depth - 1, ply + 1, end, true);
    else {
      let reduction = 0;
      if (depth >= 3 && legal > 2 && !tactical && !checked) {
        reduction = REDUCTIONS[(min(depth, 31) << 6) | min(legal, 63)];
        if (wide) reduction--;
        if (MOVE_SCORES[i] >= 1 << 23) reduction--;
        if (reduction < 0) reduction = 0;
        if (reduction > depth - 2) reduction = depth - 2;
      }
      score = -search(-alpha - 1, -alpha, depth - 1 - reduction, ply + 1, end, true);
      if (score > alpha && reduction > 0)
        score = -search(-alpha - 1, -alpha, depth - 1, ply + 1, end, true);
      if (score > alpha && score < beta)
        score = -search(-beta, -alpha, depth - 1, ply + 1, end, true);
    }
    undoMove();
    if (stopped) return 0;
    if (score > best) {
      best = score;
      bestMove = move;
      if (score > alpha) {
        alpha = score;
        bound = EXACT;
        if (wide) extendPrincipal(ply, move);
        if (score >= beta) {
          bound = LOWER;
          if (!tactical) remember(move, depth, ply);
          break;
        }
      }
    }
  }
  if (legal == 0) return checked || PERPETUAL_LOSES ? ply - MATE : 0;
  if (drawn) return 0;
  storeEntry(key, bestMove, toTable(best, ply), depth, bound);
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

/** Half the first window around the score of the depth before. */
const WINDOW: i32 = 30;

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

function searchRootWindow(first: i32, depth: i32, low: i32, high: i32): i32 {
  let best = -INFINITE;
  let alpha = low;
  for (let i = first; i < rootCount; i++) {
    const move = rootMoves[i];
    makeMove(move);
    principalLength[1] = 0;
    let score: i32;
    if (i == first) score = -search(-high, -alpha, depth - 1, 1, 0, true);
    else {
      score = -search(-alpha - 1, -alpha, depth - 1, 1, 0, true);
      if (!stopped && score > alpha && score < high) {
        principalLength[1] = 0;
        score = -search(-high, -alpha, depth - 1, 1, 0, true);
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
  }
  return best;
}

function listRootMoves(): void {
  rootCount = 0;
  const end = generate(0, false);
  scoreMoves(0, end, 0, 0);
  for (let i = 0; i < end; i++) {
    const move = pick(i, end);
    if (onlyCount > 0 && !isAsked(move)) continue;
    if (!makeMove(move)) continue;
    undoMove();
    rootMoves[rootCount++] = move;
  }
}

function isAsked(move: i32): bool {
  for (let i = 0; i < onlyCount; i++) if (onlyMoves[i] == move) return true;
  return false;
}

/**
 * Searches the position set up, deeper and deeper, until a limit is reached or the host says stop, and reports each
 * complete depth. Lines are all searched to the same depth. Returns the number of lines found.
 * @param mostDepth plies, 1–126; @param mostNodes 0 for no limit
 */
export function think(mostDepth: i32, mostNodes: f64, lines: i32): i32 {
  nodes = 0;
  nodeLimit = <u64>mostNodes;
  stopped = false;
  deepest = 0;
  completedDepth = 0;
  lineCount = 0;
  enter(0, inCheck());
  listRootMoves();
  const wanted = min(min(lines, rootCount), MOST_LINES);
  if (wanted == 0) return 0;
  for (let depth = 1; depth <= min(mostDepth, MOST_PLY - 1); depth++) {
    for (let line = 0; line < wanted; line++) {
      const score = searchRoot(line, depth, line < lineCount ? lineScores[line] : 0);
      if (stopped) return lineCount;
      insertLine(line, score);
    }
    keepLines(wanted);
    completedDepth = depth;
    report(depth, deepest, <f64>nodes);
    if (nodeLimit != 0 && nodes >= nodeLimit) break;
    if (isDecided(depth)) break;
  }
  return lineCount;
}

/** All lines end in mates that a deeper search can't shorten. */
function isDecided(depth: i32): bool {
  for (let i = 0; i < lineCount; i++) {
    const distance = MATE - abs(lineScores[i]);
    if (abs(lineScores[i]) < MATE_BOUND || distance > depth) return false;
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
  return <f64>countLines(depth, 0);
}

function countLines(depth: i32, start: i32): u64 {
  const end = generate(start, false);
  let count: u64 = 0;
  for (let i = start; i < end; i++) {
    if (!makeMove(MOVE_LIST[i])) continue;
    count += depth <= 1 ? 1 : countLines(depth - 1, end);
    undoMove();
  }
  return count;
}
