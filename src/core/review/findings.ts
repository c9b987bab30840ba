import { timesAlong } from '../game/clock';
import { gameInfo } from '../game/info';
import type { GameRecord } from '../game/record';
import { mainLine, positionsAlong } from '../game/tree';
import { rulesetOf } from '../rulesets';
import type { PositionEvaluation } from './evaluation';
import { accuracies, reviewGame, type Findings, type Reviewed } from './review';

/** Counted up with every change of a formula in docs/accuracy.md: what was found by an earlier version is reckoned anew. */
export const REVIEW_RULES = 4;

/** What a sweep says of a game, with the main line of which it says so. */
export interface SweepFindings {
  /** UCI or USI. */
  line: readonly string[];
  findings: Findings;
}

/** The main line's moves in UCI or USI. */
export const mainLineCodes = ({ tree }: GameRecord): string[] =>
  mainLine(tree).map(({ move }) => rulesetOf(tree.kind).code(move));

/** What a sweep says of a game, from what it found at each position. @param before an earlier one of the same game */
export function findingsFrom(
  record: GameRecord,
  evaluations: readonly (PositionEvaluation | null)[],
  before?: Reviewed,
): SweepFindings {
  const { tree } = record;
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const positions = positionsAlong(ruleset, tree.start, line);
  const times = timesAlong(line, ruleset.side(positions[0]!), gameInfo(record).timeControl);
  const findings = reviewGame(
    ruleset,
    positions,
    line.map(({ move }) => move),
    evaluations,
    times.map(({ spent }) => spent),
    before,
  );
  return { line: mainLineCodes(record), findings };
}

/** How many moves two lines have in common from the start. */
export function sharedMoves(one: readonly string[], other: readonly string[]): number {
  const index = one.findIndex((code, ply) => code !== other[ply]);
  return index === -1 ? one.length : index;
}

/** What is still true of a line that may have been changed since: what was said of the moves that are the same. */
export function findingsAlong(
  { line, findings }: SweepFindings,
  codes: readonly string[],
): Findings {
  const shared = sharedMoves(line, codes);
  if (shared === line.length && shared === codes.length) return findings;
  const moves = codes.map((_, index) => (index < shared ? (findings.moves[index] ?? null) : null));
  const course = [null, ...codes].map((_, ply) =>
    ply <= shared ? (findings.course[ply] ?? null) : null,
  );
  return { moves, course, accuracy: accuracies(moves) };
}
