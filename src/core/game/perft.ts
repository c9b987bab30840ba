import type { Move } from './move';

/** What counting needs of a mutable position. */
export interface Playable {
  legalMoves(): Move[];
  make(move: Move): void;
  undo(): void;
}

/** Counts the lines of `depth` plies, playing and taking back every last move too. */
export function perft(position: Playable, depth: number): number {
  if (depth === 0) return 1;
  let count = 0;
  for (const move of position.legalMoves()) {
    position.make(move);
    count += perft(position, depth - 1);
    position.undo();
  }
  return count;
}
