import type { ChessPosition } from '../chess/position';
import { chess } from '../chess/ruleset';
import { toOf, type Move } from '../game/move';
import { before, rank, readValue, valueOf, type Look } from './exact';

/** What a position is surely worth, by a line to where tables know. */
export interface Forced {
  /** As tables keep it; a win may come sooner. */
  value: number;
  /** Until a position that tables know, or the end of the game. */
  line: readonly Move[];
}

/** Half moves that are looked ahead. */
const DEEPEST = 6;
/** Values are those of tables: mated, and stalemated. */
const [MATED, STALEMATED] = [1, 0];

/**
 * What a position is worth that tables don't know, where every line that matters leads to one that they do: captures that win, checks and only moves.
 * @param most positions that are looked at
 * @returns null where it is not certain within so many
 */
export function forcedValue(position: ChessPosition, look: Look, most: number): Forced | null {
  let left = most;
  const search = (now: ChessPosition, depth: number): Forced | null => {
    left--;
    const known = valueOf(now, look);
    if (known !== null) return { value: known, line: [] };
    if (depth === 0) return null;
    const moves = chess.moves(now);
    if (moves.length === 0) return { value: chess.inCheck(now) ? MATED : STALEMATED, line: [] };
    let best: Forced | null = null;
    let isOpen = false;
    for (const move of capturesFirst(now, moves)) {
      const behind = left > 0 ? search(chess.play(now, move), depth - 1) : null;
      if (!behind) {
        isOpen = true;
        continue;
      }
      const found = { value: before(behind.value), line: [move, ...behind.line] };
      if (!best || rank(found.value) > rank(best.value)) best = found;
      if (isWon(found.value)) return found;
    }
    return isOpen ? null : best;
  };
  for (let depth = 1; depth <= DEEPEST && left > 0; depth++) {
    const found = search(position, depth);
    if (found) return found;
  }
  return null;
}

const isWon = (value: number): boolean => readValue(value).result === 'win';

/** Captures lead soonest to what tables know. */
const capturesFirst = ({ board }: ChessPosition, moves: readonly Move[]): Move[] => [
  ...moves.filter((move) => board[toOf(move)] !== 0),
  ...moves.filter((move) => board[toOf(move)] === 0),
];
