import type { Score } from '../game/score';
import type { Seen } from './seen';

/** Best play from a position, and what it is worth from the view of side 0. */
export interface EvaluatedLine {
  score: Score;
  /** UCI or USI. */
  moves: readonly string[];
}

/** The depth of what is known exactly, from tables of endings or as a mate that is proved: deeper than any search. */
export const EXACT_DEPTH = 127;

/** What searches found at one position. */
export interface PositionEvaluation {
  depth: number;
  /** Best first for the side to move. */
  lines: readonly EvaluatedLine[];
  /** The played move, looked at no less deeply, where it is not among the lines. */
  played?: EvaluatedLine;
  /** Several lines looked at side by side, best first, where that was less deeply than `lines`. */
  compared?: readonly EvaluatedLine[];
  /** The verdict on the move played might still change when it was left. */
  isUnsettled?: boolean;
  /** How far ahead the error, or the only move, was seen; where that was asked. */
  seen?: Seen;
  /** The move played there is none of those that were asked about. */
  isOutside?: boolean;
  /** How many answers it rests on; grows as a sweep goes on. */
  answers: number;
}
