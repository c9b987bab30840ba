import type { GameKind, SearchRoot, Side } from '../game/ruleset';
import { lossOf } from '../review/chance';
import { THRESHOLDS } from '../review/verdict';
import type { Seen } from '../review/seen';
import type { Effort } from '../review/sweep-settings';
import type { Answer, Ask, Budget } from './question';

/** Plies that are looked ahead at most. */
export const MOST_PLIES_AHEAD = 6;
/** Of the average effort, what all the looks ahead from one position may take. */
export const AHEAD_SHARE = 0.42;
/** A move is seen to be an error where it is seen to lose at least this part of what it loses. */
const SEEN_PART = 0.5;

/** What there is to see: that a move loses against a better one, or that one is the best. */
export type Sight = { error: string; better: string; loss: number } | { find: string };

/** Whether a plain search sees it. */
function sees(sight: Sight, kind: GameKind, side: Side, { lines }: Answer): boolean {
  if ('find' in sight) return lines[0]?.moves[0] === sight.find;
  const scoreOf = (code: string) => lines.find(({ moves }) => moves[0] === code)?.score;
  const [better, error] = [scoreOf(sight.better), scoreOf(sight.error)];
  if (!better || !error) return false;
  const least = Math.max(THRESHOLDS.inaccuracy, SEEN_PART * sight.loss);
  return lossOf(kind, better, error, side) >= least;
}

/**
 * How far ahead one has to look to see something: plain searches of growing depth, until one sees it and the next still does, or what
 * they may take is spent.
 */
export async function howFarAhead(
  ask: Ask,
  { kind, root, side }: { kind: GameKind; root: SearchRoot; side: Side },
  sight: Sight,
  effort: Effort,
): Promise<Seen> {
  const choice =
    'find' in sight ? { lines: 1 } : { lines: 2, only: [sight.better, sight.error].sort() };
  const isTimed = effort.nodes === undefined;
  let left = Math.round(AHEAD_SHARE * (effort.nodes ?? effort.milliseconds!));
  let first: number | null = null;
  for (let depth = 1; depth <= MOST_PLIES_AHEAD; depth++) {
    const budget: Budget = { depth, ...(isTimed ? { milliseconds: left } : { nodes: left }) };
    const answer = await ask({ kind, root, budget, ...choice, plain: true, fresh: true });
    left -= isTimed ? answer.milliseconds : answer.nodes;
    // a search that ends with a mate needs to go no further
    if (answer.depth < depth && answer.lines[0]?.score.kind !== 'mate')
      return { plies: first, deepest: depth - 1 };
    if (!sees(sight, kind, side, answer)) first = null;
    else if (first !== null) return { plies: first, deepest: depth };
    else first = depth;
    if (left <= 0) return { plies: first, deepest: depth };
  }
  return { plies: first, deepest: MOST_PLIES_AHEAD };
}
