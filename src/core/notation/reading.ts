import type { Problem } from '../game/problem';
import type { GameRecord } from '../game/record';

/** A game that was read, with the number of its first line and what the reader had to decide on the way. */
export interface ReadGame {
  record: GameRecord;
  line: number;
  notes?: readonly Problem[];
}

/** What became of one game of a file: read, or lost to a problem that is named with its place. */
export type Reading = ReadGame | { problem: Problem };

export const isRead = (reading: Reading): reading is ReadGame => 'record' in reading;
