import type { Found } from '../ask/swept';
import { timesAlong } from '../game/clock';
import { gameInfo } from '../game/info';
import type { GameRecord } from '../game/record';
import { mainLine, positionsAlong, type GameNode, type NodeId } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { THRESHOLDS } from './verdict';
import type { PositionEvaluation } from './evaluation';
import { accuracies, reviewGame, type Findings, type MoveReview, type Reviewed } from './review';

/** Counted up with every change of a formula in docs/accuracy.md: what was found by an earlier version is reckoned anew. */
export const REVIEW_RULES = 7;

/** What a sweep says of a game, with the main line of which it says so. */
export interface SweepFindings {
  /** UCI or USI. */
  line: readonly string[];
  findings: Findings;
  /** What is said of moves of variations, by their nodes. */
  variations: readonly (readonly [NodeId, MoveReview])[];
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
  const line = mainLine(record.tree);
  const findings = reviewAlong(record, line, evaluations, before);
  return { line: mainLineCodes(record), findings, variations: [] };
}

/** The same from all that it found, in variations too. */
export function findingsOfSweep(record: GameRecord, swept: Found): SweepFindings {
  const found = findingsFrom(record, swept.evaluations());
  const variations = swept.variations().flatMap(({ nodes, from, evaluations }) => {
    const { moves } = reviewAlong(record, nodes, evaluations);
    return nodes.flatMap(({ id }, index): [NodeId, MoveReview][] => {
      const review = moves[index];
      return review && index + 1 >= from ? [[id, review]] : [];
    });
  });
  return { ...found, variations };
}

function reviewAlong(
  record: GameRecord,
  line: readonly GameNode[],
  evaluations: readonly (PositionEvaluation | null)[],
  before?: Reviewed,
): Findings {
  const { tree } = record;
  const ruleset = rulesetOf(tree.kind);
  const positions = positionsAlong(ruleset, tree.start, line);
  const times = timesAlong(line, ruleset.side(positions[0]!), gameInfo(record).timeControl);
  return reviewGame(
    ruleset,
    positions,
    line.map(({ move }) => move),
    evaluations,
    times.map(({ spent }) => spent),
    before,
  );
}

/**
 * What a sweep says together with what an earlier one said of moves that it has not gone over.
 * @param earlier of the same game, which may have been changed since
 */
export function overlaid(found: SweepFindings, earlier: SweepFindings): SweepFindings {
  const { moves: before, course } = findingsAlong(earlier, found.line);
  const moves = found.findings.moves.map((review, index) => review ?? before[index] ?? null);
  const own = new Set(found.variations.map(([node]) => node));
  return {
    line: found.line,
    findings: {
      moves,
      course: found.findings.course.map((value, ply) => value ?? course[ply] ?? null),
      accuracy: accuracies(moves),
    },
    variations: [...earlier.variations.filter(([node]) => !own.has(node)), ...found.variations],
  };
}

/** A move of which a later sweep says something else. */
export interface Change {
  ply: number;
  before: Pick<MoveReview, 'verdict' | 'loss'>;
  now: Pick<MoveReview, 'verdict' | 'loss'>;
}

/** The moves of the main line of which two sweeps do not say the same: another verdict, or a loss that differs by as much as an inaccuracy. */
export function changesBetween(earlier: SweepFindings, now: SweepFindings): Change[] {
  const { moves } = findingsAlong(earlier, now.line);
  return now.findings.moves.flatMap((review, index) => {
    const before = moves[index];
    if (!before || !review) return [];
    const isSame =
      before.verdict === review.verdict &&
      Math.abs(before.loss - review.loss) < THRESHOLDS.inaccuracy;
    return isSame ? [] : [{ ply: review.ply, before: said(before), now: said(review) }];
  });
}

const said = ({ verdict, loss }: MoveReview) => ({ verdict, loss });

/** How many moves two lines have in common from the start. */
export function sharedMoves(one: readonly string[], other: readonly string[]): number {
  const index = one.findIndex((code, ply) => code !== other[ply]);
  return index === -1 ? one.length : index;
}

/** What is still true of a line that may have been changed since: what was said of the moves that are the same. */
export function findingsAlong(
  { line, findings }: Pick<SweepFindings, 'line' | 'findings'>,
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
