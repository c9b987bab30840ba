import { cpScore, type Score } from '../game/score';
import type { GameRecord } from '../game/record';
import { applySteps, freshId, type BranchNode, type Step } from '../game/steps';
import {
  mainLine,
  nodeOf,
  pathTo,
  positionsAlong,
  type GameNode,
  type GameTree,
} from '../game/tree';
import type { Ruleset } from '../game/ruleset';
import { rulesetOf } from '../rulesets';
import { walk } from '../game/walk';
import { EXACT_DEPTH, type PositionEvaluation } from './evaluation';
import { isRemarked, shownVerdict, USUAL_REMARKS, type Remarks } from './remarks';
import type { Findings, MoveReview } from './review';
import type { SweepFindings } from './findings';
import { isFlag, VERDICT_NAG } from './verdict';

/** What a review has to say of a game. */
export interface ToBeWritten {
  findings: Findings;
  /** By ply of the main line. */
  evaluations: readonly (PositionEvaluation | null)[];
  /** Of moves of variations, by their nodes. */
  variations?: SweepFindings['variations'];
}

/** Signs that people or earlier reviews may have put on a move. */
const MOVE_SIGNS = new Set([1, 2, 3, 4, 5, 6, 7]);
const isSigned = ({ symbols }: GameNode): boolean =>
  symbols?.some((nag) => MOVE_SIGNS.has(nag)) ?? false;

/** A move of a variation fails, and whoever wrote it does not say so. */
export const isPointedOut = (node: GameNode, found: MoveReview, remarks: Remarks): boolean =>
  isFlag(found.verdict) && isRemarked(found, remarks) && !isSigned(node);

/**
 * The steps that write a review into a game, as far as remarks are wanted: evaluations, signs where nobody has put one, and the better
 * line beside each move that gives enough away. What is there is never replaced.
 * @param say the words for a better line
 * @param draw random numbers in [0, 1) for the ids of new nodes
 */
export function annotationSteps(
  record: GameRecord,
  { findings, evaluations, variations = [] }: ToBeWritten,
  say: (review: MoveReview) => string,
  draw: () => number,
  remarks: Remarks = USUAL_REMARKS,
): Step[] {
  const ruleset = rulesetOf(record.tree.kind);
  const line = mainLine(record.tree);
  const steps: Step[] = [];
  for (const [index, node] of line.entries()) {
    const found = findings.moves[index];
    const next = evaluations[index + 1];
    const score = next?.lines[0]?.score ?? (found && afterMove(found.playedScore));
    if (remarks.evaluations && score && !node.evaluation)
      steps.push({
        type: 'annotate',
        node: node.id,
        field: 'evaluation',
        value: {
          score: score.kind === 'cp' ? cpScore(score.cp) : score,
          ...(next && next.depth !== EXACT_DEPTH ? { depth: next.depth } : {}),
        },
      });
    if (found) steps.push(...errorSteps(ruleset, record.tree, node, found, say, draw, remarks));
  }
  for (const [id, found] of variations) {
    const node = record.tree.nodes.get(id);
    if (node && isPointedOut(node, found, remarks))
      steps.push(...errorSteps(ruleset, record.tree, node, found, say, draw, remarks));
  }
  return steps;
}

/** The sign where nobody has put one, and the better line. */
function errorSteps(
  ruleset: Ruleset,
  tree: GameTree,
  node: GameNode,
  found: MoveReview,
  say: (review: MoveReview) => string,
  draw: () => number,
  remarks: Remarks,
): Step[] {
  const steps: Step[] = [];
  const verdict = shownVerdict(found, remarks);
  if (verdict !== 'none' && !isSigned(node))
    steps.push({
      type: 'annotate',
      node: node.id,
      field: 'symbols',
      value: [...(node.symbols ?? []), VERDICT_NAG[verdict]],
    });
  const insertion =
    isRemarked(found, remarks) && betterLine(ruleset, tree, node, found, say, draw, remarks);
  return insertion ? [...steps, insertion] : steps;
}

/** A score from before a move, as it stands after the move: a mate that was delivered by it is one in nought. */
const afterMove = (score: Score): Score =>
  score.kind === 'mate' ? { ...score, plies: Math.max(0, score.plies - 1) } : score;

/** The game with a review written into it. */
export const annotated = (...args: Parameters<typeof annotationSteps>): GameRecord =>
  applySteps(args[0], annotationSteps(...args));

/** Inserts the better line beside a move, unless a variation with its first move is there. */
function betterLine(
  ruleset: Ruleset,
  tree: GameTree,
  node: GameNode,
  found: MoveReview,
  say: (review: MoveReview) => string,
  draw: () => number,
  { lineMoves, form }: Remarks,
): Step | null {
  const codes = found.betterLine.slice(0, lineMoves);
  if (codes.length === 0) return null;
  const parent = nodeOf(tree, node.parent!);
  const taken = parent.children.some((id) => ruleset.code(nodeOf(tree, id).move) === codes[0]);
  const path = pathTo(tree, parent.id);
  const from = positionsAlong(ruleset, tree.start, path).at(-1);
  const moves = walk(ruleset, from, codes).map(({ move }) => move);
  if (taken || moves.length === 0) return null;
  const branch: BranchNode[] = [];
  for (const move of moves)
    branch.push({
      id: freshId(tree, draw),
      parent: branch.at(-1)?.id ?? null,
      move,
      ...(branch.length === 0 && form !== 'symbols' ? { comment: say(found) } : {}),
    });
  return {
    type: 'insert',
    parent: parent.id,
    index: parent.children.length,
    branch: branch as [BranchNode, ...BranchNode[]],
  };
}
