/** What both sides have for a game, in seconds. */
export interface Clock {
  base: number;
  increment: number;
  byoyomi: number;
}

/** Seconds thought about each move: longer in the middle of the game, short when time runs out, now and then none. */
export function thinkingTimes(clock: Clock, plies: number, random: () => number): number[] {
  const left = [clock.base, clock.base];
  return Array.from({ length: plies }, (_, ply) => {
    const side = ply % 2;
    const share = ply < 16 ? 0.006 : ply < 70 ? 0.032 : 0.02;
    const mood = Math.exp((random() + random() + random() - 1.5) * 1.1);
    const hasty = random() < 0.07;
    const wish = hasty ? 1 + random() * 3 : left[side]! * share * mood + clock.increment * 0.6 + 1;
    const most = left[side]! + clock.byoyomi - 1;
    const spent = Math.max(1, Math.floor(Math.min(wish, most * 0.6 + clock.byoyomi * 0.35)));
    left[side] = Math.max(0, left[side]! - spent) + clock.increment;
    return spent;
  });
}
