import type { Problem } from '@/core/game/problem';
import type { GameFailure } from './import-failures';
import type { PreparedBaseGame } from './prepared-base-game';
import type { PreparedGame } from './prepared-game';

/** One part of a file: games that were read, and those that were not. */
export interface ImportPart {
  /** Those for the library, or for a base. */
  games: PreparedGame[];
  baseGames: PreparedBaseGame[];
  failures: GameFailure[];
  /** What the reader decided about games that were read. */
  notes: Problem[];
}

/** How many games of the file it holds. */
export const gamesIn = ({ games, baseGames, failures }: ImportPart): number =>
  games.length + baseGames.length + failures.length;
