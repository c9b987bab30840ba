import type { Ruleset, Side } from '../game/ruleset';
import type { Findings } from './review';

/** As many ordinary positions as turning points, and never fewer than this, so that a stop tells nothing. */
const LEAST_ORDINARY = 3;
/** Before this the moves are known rather than thought of, but for short games. */
const FIRST_PLY = 8;
/** Plies between a stop and an ordinary one. */
const APART = 3;

/**
 * Where a player is asked to think first: before each move that turned the game, and, told apart by nothing, at some
 * ordinary positions. They depend on the game alone.
 * @param positions all positions of the main line, the start first
 * @param side whose moves are asked for; null: both
 * @returns plies in the order of the game
 */
export function stopsOf<P>(
  ruleset: Ruleset<P>,
  positions: readonly P[],
  findings: Findings,
  side: Side | null,
): number[] {
  const asked = findings.moves.flatMap((found) =>
    found && (side === null || found.side === side) ? [found] : [],
  );
  const stops = asked.filter(({ isTurningPoint }) => isTurningPoint).map(({ ply }) => ply - 1);
  const wanted = Math.max(LEAST_ORDINARY, stops.length);
  const first = Math.min(FIRST_PLY, positions.length >> 1);
  const ordinary = asked
    .filter(({ isTurningPoint }) => !isTurningPoint)
    .map(({ ply }) => ply - 1)
    .filter((ply) => ply >= first && ruleset.choices(positions[ply]!).length > 1)
    .toSorted((a, b) =>
      lottery(ruleset.key(positions[a]!)) < lottery(ruleset.key(positions[b]!)) ? -1 : 1,
    );
  let left = wanted;
  for (const ply of ordinary) {
    if (left === 0) break;
    if (stops.some((stop) => Math.abs(stop - ply) < APART)) continue;
    stops.push(ply);
    left--;
  }
  return stops.sort((a, b) => a - b);
}

/** A number that follows from the position and looks like none (a step of the generator of Knuth's MMIX). */
const lottery = (key: bigint): bigint =>
  BigInt.asUintN(64, key * 6364136223846793005n + 1442695040888963407n) >> 16n;
