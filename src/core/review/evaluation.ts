import type { Score } from '../game/score';

/** What a search found at one position: its lines, and the move played where it is not among them. */
export interface PositionEvaluation {
  depth: number;
  /** Best first for the side to move; scores from the view of side 0, moves in UCI or USI. */
  lines: readonly { score: Score; moves: readonly string[] }[];
  /** The played move searched to the same depth, where it is not among the lines. */
  played?: { score: Score; moves: readonly string[] };
}
