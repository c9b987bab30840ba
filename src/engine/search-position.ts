import type { GameKind, SearchRoot } from '@/core/game/ruleset';
import type { PositionEvaluation } from '@/core/review/review';
import type { SweepSettings } from '@/core/review/sweep-settings';
import type { SearchInfo, SearchRequest } from './contract';

/** Runs one search to its end. */
export type Search = (request: SearchRequest) => Promise<SearchInfo>;

/** Nodes after which a position is left also where a depth is asked for: in decided positions a depth may cost any number. */
export const MOST_NODES_FOR_DEPTH = 20_000_000;

/** The search that a sweep makes of a position: from a cleared table, so that nothing else can matter. */
export const mainRequest = (
  kind: GameKind,
  root: SearchRoot,
  { lines, ...limits }: SweepSettings,
): SearchRequest => ({
  kind,
  root,
  limits: limits.depth === undefined ? limits : { ...limits, nodes: MOST_NODES_FOR_DEPTH },
  lines,
  fresh: true,
});

/** Nodes that pricing a move may take, for each that the main search took: with it, four times its budget is never passed. */
export const PRICING_SHARE = 3;

/**
 * The search that prices one move at the depth that the main search reached. A mate, for whomever, settles it before; so does
 * {@link PRICING_SHARE} times what the main search took, where the position is one in which nothing can be left out.
 */
export const pricingRequest = (
  kind: GameKind,
  root: SearchRoot,
  move: string,
  main: Pick<SearchInfo, 'depth' | 'nodes'>,
): SearchRequest => ({
  kind,
  root,
  limits: { depth: main.depth, nodes: Math.max(1, PRICING_SHARE * main.nodes), mate: true },
  lines: 1,
  only: [move],
  fresh: true,
});

export const holdsMove = (lines: PositionEvaluation['lines'], move: string): boolean =>
  lines.some(({ moves }) => moves[0] === move);

export interface PositionSearch {
  main: SearchInfo;
  /** The played move's own search, where it is not among the lines. */
  priced: SearchInfo | null;
}

/** Everything a sweep finds out about one position. */
export async function searchPosition(
  search: Search,
  kind: GameKind,
  root: SearchRoot,
  played: string | null,
  settings: SweepSettings,
): Promise<PositionSearch> {
  const main = await search(mainRequest(kind, root, settings));
  if (played === null || main.lines.length === 0 || holdsMove(main.lines, played))
    return { main, priced: null };
  return { main, priced: await search(pricingRequest(kind, root, played, main)) };
}
