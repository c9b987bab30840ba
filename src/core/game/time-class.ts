import type { TimeControl } from './time-control';

/** By how long a side has for a game of 60 moves. */
export const TIME_CLASSES = ['blitz', 'rapid', 'long'] as const;
export type TimeClass = (typeof TIME_CLASSES)[number];

const MOVES = 60;
const BLITZ_SECONDS = 10 * 60;
const RAPID_SECONDS = 60 * 60;

/** Seconds that a side has for 60 moves; seconds for each move once the base time is used up count for every second one. */
export function secondsFor60({ stages, byoyomi }: TimeControl): number {
  let seconds = (MOVES / 2) * byoyomi;
  let left = MOVES;
  for (const { moves, base, increment } of stages) {
    if (left <= 0) break;
    const here = Math.min(left, moves ?? left);
    seconds += base + here * increment;
    left -= here;
  }
  return seconds;
}

/**
 * As the laws of chess divide them (FIDE Laws, appendices A and B: up to 10 minutes for 60 moves is blitz, under 60 rapid); shogi is
 * divided alike.
 */
export function timeClassOf(control: TimeControl): TimeClass {
  const seconds = secondsFor60(control);
  if (seconds <= BLITZ_SECONDS) return 'blitz';
  return seconds < RAPID_SECONDS ? 'rapid' : 'long';
}
