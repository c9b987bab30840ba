import type { GameRecord } from '../game/record';
import type { Score } from '../game/score';
import { mainLine, positionsAlong } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { chanceOf } from './chance';
import type { PositionEvaluation } from './evaluation';
import { findingsFrom } from './findings';
import { figuresOf, type GameFigures } from './game-figures';

/** Of the moves of a game, the share with an evaluation from which on its figures can be told. */
const ENOUGH = 0.9;

/**
 * The figures of a game by the evaluations that are written at its moves: a move loses what the value falls by with it (docs/accuracy.md).
 * Null where less than nine in ten moves have one; of no depth where one of them states none.
 */
export function statedFigures(record: GameRecord): GameFigures | null {
  const line = mainLine(record.tree);
  const stated = line.filter(({ evaluation }) => evaluation !== undefined).length;
  if (stated === 0 || stated < ENOUGH * line.length) return null;
  const figures = figuresOf(findingsFrom(record, statedEvaluations(record)).findings);
  const isDeep = line.every(({ evaluation }) => !evaluation || evaluation.depth !== undefined);
  return { ...figures, depth: isDeep ? figures.depth : null };
}

/** What the evaluations of a file say of each position of the main line, as a search would; null where one before or after is missing. */
function statedEvaluations(record: GameRecord): (PositionEvaluation | null)[] {
  const { tree } = record;
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const positions = positionsAlong(ruleset, tree.start, line);
  return positions.map((position, ply) => {
    const before = line[ply - 1]?.evaluation;
    const next = line[ply];
    if (!before) return null;
    const best = { score: before.score, moves: [] };
    const found = { depth: before.depth ?? 0, lines: [best], answers: 1 };
    if (!next?.evaluation) return found;
    const side = ruleset.side(position);
    const worth = (score: Score): number => chanceOf(tree.kind, score, side);
    const played = { score: next.evaluation.score, moves: [ruleset.code(next.move)] };
    return worth(played.score) >= worth(best.score)
      ? { ...found, lines: [played] }
      : { ...found, played };
  });
}
