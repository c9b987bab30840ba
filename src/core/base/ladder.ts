/** As many games as a segment is made of in memory. */
export const SEGMENT_GAMES = 65_536;
/** As many games as segments are joined to. */
export const MOST_JOINED = 16 * SEGMENT_GAMES;
/** So many segments of about a size make a larger one. */
const RUNG = 4;

/**
 * How many of a base's last segments are to be made one, so that there are few however it grows, and each game is written again only a few
 * times; 0: none. Small ones are joined two by two, larger ones four by four.
 * @param sizes games in each, in order
 */
export function countToJoin(sizes: readonly number[]): number {
  const [last = 0, before = Infinity] = sizes.toReversed();
  if (2 * last >= before && last + before <= SEGMENT_GAMES) return 2;
  const some = sizes.slice(-RUNG);
  const isRung =
    some.length === RUNG &&
    Math.max(...some) < RUNG * Math.min(...some) &&
    some.reduce((sum, size) => sum + size, 0) <= MOST_JOINED;
  return isRung ? RUNG : 0;
}
