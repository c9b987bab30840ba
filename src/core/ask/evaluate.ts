import type { GameKind, SearchRoot } from '../game/ruleset';
import type { PositionEvaluation } from '../review/evaluation';
import type { SearchSettings } from '../review/sweep-settings';
import type { Answer, Ask, Question } from './question';

/** Nodes after which a position is left also where a depth is asked for: in decided positions a depth may cost any number. */
export const MOST_NODES_FOR_DEPTH = 20_000_000;

/** What is asked about a position where all are looked at alike: from a cleared table, so that nothing else can matter. */
export const mainQuestion = (
  kind: GameKind,
  root: SearchRoot,
  { lines, ...budget }: SearchSettings,
): Question => ({
  kind,
  root,
  budget: budget.depth === undefined ? budget : { ...budget, nodes: MOST_NODES_FOR_DEPTH },
  lines,
  fresh: true,
});

/** Nodes that pricing a move may take, for each that the main search took: with it, four times its budget is never passed. */
export const PRICING_SHARE = 3;

/**
 * What is asked to price one move at the depth that the main search reached. A mate, for whomever, settles it before; so does
 * {@link PRICING_SHARE} times what the main search took, where the position is one in which nothing can be left out.
 */
export const pricingQuestion = (
  kind: GameKind,
  root: SearchRoot,
  move: string,
  main: Pick<Answer, 'depth' | 'nodes'>,
): Question => ({
  kind,
  root,
  budget: { depth: main.depth, nodes: Math.max(1, PRICING_SHARE * main.nodes), mate: true },
  lines: 1,
  only: [move],
  fresh: true,
});

/** What was found at one position. */
export interface PositionFound {
  main: Answer;
  /** The played move's own search, where it is not among the lines. */
  priced: Answer | null;
}

/** Looks at one position, and prices the move played to the depth that was reached. */
export async function evaluate(
  ask: Ask,
  kind: GameKind,
  { root, played }: { root: SearchRoot; played: string | null },
  settings: SearchSettings,
): Promise<PositionFound> {
  const main = await ask(mainQuestion(kind, root, settings));
  const isAmong = main.lines.some(({ moves }) => moves[0] === played);
  if (played === null || main.lines.length === 0 || isAmong) return { main, priced: null };
  return { main, priced: await ask(pricingQuestion(kind, root, played, main)) };
}

export function evaluationOf({ main, priced }: PositionFound): PositionEvaluation {
  const [line] = priced?.lines ?? [];
  const answers = priced ? 2 : 1;
  return { depth: main.depth, lines: main.lines, answers, ...(line ? { played: line } : {}) };
}
