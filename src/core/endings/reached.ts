import { LETTERS, sideOf, typeOf } from '../chess/pieces';
import type { ChessPosition } from '../chess/position';
import { toOf, type Move } from '../game/move';
import { menOn } from './exact';
import { PIECES } from './slice';

/** An ending that a game came to: the first position with so many of each piece. */
export interface ReachedEnding {
  /** Of its first position: moves that led there. */
  ply: number;
  /** The pieces of white, and of black: `KRP KR`. */
  name: string;
  /** It was on the board in the middle of an exchange alone. */
  isPassing: boolean;
}

/** Up to so many men, kings among them, endings are told apart. */
export const MOST_REACHED = 6;

/**
 * The endings that a game came to, one after the other; none where more men are left at its end.
 * @param positions of the main line, the start first
 * @param moves between them
 */
export function endingsReached(
  positions: readonly ChessPosition[],
  moves: readonly Move[],
): ReachedEnding[] {
  const reached: ReachedEnding[] = [];
  // men only become fewer: the last that is too many ends the search
  let first = positions.length;
  while (first > 0 && menOn(positions[first - 1]!) <= MOST_REACHED) first--;
  for (let ply = first; ply < positions.length; ply++) {
    const name = nameOf(positions[ply]!);
    if (name === 'K K' || reached.at(-1)?.name === name) continue;
    const [before, next] = [moves[ply - 1], moves[ply]];
    const isTakenBack = before !== undefined && next !== undefined && toOf(before) === toOf(next);
    reached.push({ ply, name, isPassing: isTakenBack && nameOf(positions[ply + 1]!) !== name });
  }
  return reached;
}

/** The same pieces, from the other side. */
export const turnedName = (name: string): string => name.split(' ').toReversed().join(' ');

function nameOf({ board }: ChessPosition): string {
  const letters: [string, string] = ['K', 'K'];
  for (const side of [0, 1] as const)
    for (const letter of PIECES)
      for (const piece of board)
        if (piece !== 0 && sideOf(piece) === side && LETTERS[typeOf(piece)] === letter)
          letters[side] += letter;
  return letters.join(' ');
}
