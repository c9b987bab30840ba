import type { Continuation } from './block';

/** From so many on, games are marked on a list of all, which costs as much however few they are. */
export const MANY = 5000;

/**
 * How many games of some continuations are wanted, each once: one that met the position twice may have gone on in two ways.
 * @param size above all their numbers
 */
export function countGames(
  continuations: readonly Continuation[],
  size: number,
  isWanted: (game: number) => boolean,
): number {
  const met = continuations.reduce((sum, { games }) => sum + games.length, 0);
  const seen = met < MANY ? new Set<number>() : new Flags(size);
  for (const { games } of continuations) addWanted(seen, games, isWanted);
  return seen.size;
}

/** A function of its own: a loop of a million that is left is compiled anew. */
function addWanted(
  seen: { add(game: number): unknown },
  games: readonly number[],
  isWanted: (game: number) => boolean,
): void {
  for (const game of games) if (isWanted(game)) seen.add(game);
}

class Flags {
  size = 0;
  private readonly flags: Uint8Array;

  constructor(most: number) {
    this.flags = new Uint8Array(most);
  }

  add(game: number): void {
    if (this.flags[game] === 1) return;
    this.flags[game] = 1;
    this.size++;
  }
}
