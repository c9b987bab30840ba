import type { Problem } from '../game/problem';
import type { GameRecord } from '../game/record';

/** A game that was read, with the number of its first line and what the reader had to decide on the way. */
export interface ReadGame {
  record: GameRecord;
  line: number;
  notes?: readonly Problem[];
}

/** A game that was lost to a problem, which is named with its place. */
export interface FailedGame {
  problem: Problem;
  /** The game as it stands in the file; missing where it is longer than a game may be. */
  text?: string;
}

/** What became of one game of a file. */
export type Reading = ReadGame | FailedGame;

export const isRead = (reading: Reading): reading is ReadGame => 'record' in reading;
