/** A position of a suite: one move is clearly best, though a short search does not see it. */
export interface SuitePosition {
  /** FEN or SFEN. */
  position: string;
  /** UCI or USI. */
  best: string;
  /** Hundredths of a pawn by which the next best move is worse. */
  margin: number;
}
