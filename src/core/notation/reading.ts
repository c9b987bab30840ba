import type { Problem } from '../game/problem';
import type { GameRecord } from '../game/record';

/** What became of one game of a file: read, or lost to a problem that is named with its place. */
export type Reading = { record: GameRecord; line: number } | { problem: Problem };

export const isRead = (reading: Reading): reading is { record: GameRecord; line: number } =>
  'record' in reading;
