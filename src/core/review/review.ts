import { EXACT_DEPTH, type EvaluatedLine, type PositionEvaluation } from './evaluation';
import { toOf, type Move } from '../game/move';
import type { GameKind, Phase, Ruleset, Side } from '../game/ruleset';
import type { Score } from '../game/score';
import { accuracyOf, type Accuracy } from './accuracy';
import { chanceOf, lossOf } from './chance';
import { phasesAlong } from './phases';
import type { Seen } from './seen';
import { valueOf, type Origin } from './value';
import { THRESHOLDS, verdictOf, type Verdict } from './verdict';

/** What is to be said of one move of the main line. */
export interface MoveReview {
  /** 1 for the first move. */
  ply: number;
  side: Side;
  /** Chance of side 0 after the best move, and after the move played. */
  best: number;
  played: number;
  bestScore: Score;
  playedScore: Score;
  /** Chance points given away by the mover, never negative. */
  loss: number;
  verdict: Verdict;
  /** Place of the played move among the lines, from 1; null where it is outside. */
  rank: number | null;
  /** How many lines there are to be outside of. */
  linesKnown: number;
  /** How many of the other moves among them lose less than an inaccuracy. */
  othersHold: number;
  /** How far one had to look ahead to see the error, or the only move; null where that was not asked. */
  seen: Seen | null;
  isTurningPoint: boolean;
  /** There was something to choose from: the move counts in accuracy. */
  isChoice: boolean;
  phase: Phase;
  /** Milliseconds spent on it; null where not known. */
  spent: number | null;
  /** It lets the other side give mate by force, which the best would not have. */
  walksIntoMate: boolean;
  /** The better line in UCI or USI; empty where the best was played. */
  betterLine: readonly string[];
  /** The best answer to the move played. */
  refutation: readonly string[];
  depth: number;
  /** Its verdict might still change: the search came to its end before it held. */
  isUnsettled: boolean;
}

/** Chance of side 0 at a position, and how it is known. */
export interface CourseValue {
  chance: number;
  origin: Origin;
}

export interface Findings {
  /** By ply − 1; null where not evaluated yet. */
  moves: readonly (MoveReview | null)[];
  /** At each position, the start included; null where not known. */
  course: readonly (CourseValue | null)[];
  accuracy: readonly [Accuracy, Accuracy];
}

/** Of a game that nothing is known of. */
export const NO_FINDINGS: Findings = {
  moves: [],
  course: [],
  accuracy: [accuracyOf([]), accuracyOf([])],
};

/** Won, level or lost for side 0: the borders between which a result is open. */
export const OPEN_FROM = 30;
export const OPEN_TO = 70;
const band = (chance: number): number => (chance < OPEN_FROM ? 0 : chance > OPEN_TO ? 2 : 1);

/** What a review is made of, and what came of it: a next one of the same moves takes over what has not changed. */
export interface Reviewed {
  evaluations: readonly (PositionEvaluation | null)[];
  findings: Findings;
}

/**
 * Reviews a main line.
 * @param positions all positions, the start first
 * @param evaluations by ply; null where there is none (yet). A finished position needs none.
 * @param spent milliseconds spent on each move, where known
 * @param before an earlier review of the same moves
 */
export function reviewGame<P>(
  ruleset: Ruleset<P>,
  positions: readonly P[],
  moves: readonly Move[],
  evaluations: readonly (PositionEvaluation | null)[],
  spent: readonly (number | null)[] = [],
  before?: Reviewed,
): Findings {
  const isAsBefore = (ply: number): boolean =>
    before !== undefined && before.evaluations[ply] === evaluations[ply];
  const phases = phasesAlong(ruleset, positions);
  const course = positions.map((position, ply) => {
    if (isAsBefore(ply)) return before!.findings.course[ply] ?? null;
    const value = valueOf(ruleset, position, positions.slice(0, ply), evaluations[ply]);
    return value && { chance: chanceOf(ruleset.kind, value.score, 0), origin: value.origin };
  });
  const reviews = moves.map((move, index) => {
    const evaluation = evaluations[index];
    if (!evaluation || evaluation.isOutside) return null;
    if (isAsBefore(index) && isAsBefore(index + 1)) return before!.findings.moves[index] ?? null;
    return reviewMove(
      ruleset,
      positions[index]!,
      { move, previous: moves[index - 1], ply: index + 1 },
      evaluation,
      evaluations[index + 1],
      { phase: phases[index]!, spent: spent[index] ?? null },
    );
  });
  return { moves: reviews, course, accuracy: accuracies(reviews) };
}

/** Accuracy of either side over the moves that left it a choice. */
export function accuracies(reviews: Findings['moves']): Findings['accuracy'] {
  const choicesOf = (side: Side): MoveReview[] =>
    reviews.flatMap((review) => (review?.side === side && review.isChoice ? [review] : []));
  return [accuracyOf(choicesOf(0)), accuracyOf(choicesOf(1))];
}

/** What was played once a game was no longer known. @param ply of the first move that counts; null: none does */
export const movesFrom = (reviews: Findings['moves'], ply: number | null): Findings['moves'] =>
  reviews.map((review) => (review && ply !== null && review.ply >= ply ? review : null));

function reviewMove<P>(
  ruleset: Ruleset<P>,
  position: P,
  { move, previous, ply }: { move: Move; previous: Move | undefined; ply: number },
  evaluation: PositionEvaluation,
  next: PositionEvaluation | null | undefined,
  known: Pick<MoveReview, 'phase' | 'spent'>,
): MoveReview | null {
  const { kind } = ruleset;
  const side = ruleset.side(position);
  const [best] = evaluation.lines;
  const code = ruleset.code(move);
  const played = evaluation.lines.find(({ moves }) => moves[0] === code) ?? evaluation.played;
  if (!best || !played) return null;
  const loss = lossOf(kind, best.score, played.score, side);
  const isChoice = ruleset.choices(position).length > 1;
  const compared = evaluation.compared ?? evaluation.lines;
  const [first, second] = compared;
  const margin = first && second ? lossOf(kind, first.score, second.score, side) : null;
  return {
    ply,
    side,
    best: chanceOf(kind, best.score, 0),
    played: chanceOf(kind, played.score, 0),
    bestScore: best.score,
    playedScore: played.score,
    loss,
    verdict: verdictOf(loss, margin, !isChoice || takesBack(move, previous), evaluation.seen),
    rank: rankAmong(compared, code, best === played),
    linesKnown: compared.length,
    othersHold: othersThatHold(kind, compared, code, side),
    seen: evaluation.seen ?? null,
    isTurningPoint: turns(kind, best.score, played.score, side, loss),
    isChoice,
    ...known,
    walksIntoMate: losesByMate(played.score, side) && !losesByMate(best.score, side),
    betterLine: best === played ? [] : best.moves,
    refutation: next?.lines[0]?.moves ?? played.moves.slice(1),
    depth: evaluation.depth,
    isUnsettled: evaluation.isUnsettled ?? false,
  };
}

/**
 * Place of a move among lines that were compared, from 1; null where it is outside of them. They may put another move first than a
 * longer look did, which is right.
 */
export function rankAmong(
  lines: readonly EvaluatedLine[],
  code: string,
  isBest: boolean,
): number | null {
  if (isBest) return 1;
  const index = lines.findIndex(({ moves }) => moves[0] === code);
  return index < 0 ? null : Math.max(2, index + 1);
}

/** Against the best of the lines that were compared: all of them were looked at alike. */
function othersThatHold(
  kind: GameKind,
  compared: readonly EvaluatedLine[],
  code: string,
  side: Side,
): number {
  const [best] = compared;
  if (!best) return 0;
  const holds = ({ score }: EvaluatedLine): boolean =>
    lossOf(kind, best.score, score, side) < THRESHOLDS.inaccuracy;
  return compared.filter((line) => line.moves[0] !== code && holds(line)).length;
}

/** Plies of the mate that was proved and not given, from the position on; null: none. */
export const missedMate = ({
  bestScore,
  playedScore,
  side,
  depth,
}: Pick<MoveReview, 'bestScore' | 'playedScore' | 'side' | 'depth'>): number | null =>
  depth === EXACT_DEPTH && matesFor(bestScore, side) && !matesFor(playedScore, side)
    ? bestScore.plies
    : null;

/** Plies of the mate that a move lets the other side give by force, from the position behind it on; null: none, or the best allowed it too. */
export const allowedMate = ({ walksIntoMate, playedScore }: MoveReview): number | null =>
  walksIntoMate && playedScore.kind === 'mate' ? playedScore.plies - 1 : null;

/** A mate that a side gives by force. */
export const matesFor = (score: Score, side: Side): score is Score & { kind: 'mate' } =>
  score.kind === 'mate' && score.winner === side;

const losesByMate = (score: Score, side: Side): boolean =>
  score.kind === 'mate' && score.winner !== side;

/** On the square to which the other side has just moved: nothing that had to be found. */
export const takesBack = (move: Move, previous: Move | undefined): boolean =>
  previous !== undefined && toOf(move) === toOf(previous);

/** A blunder; or a mistake after which the result stands in another band than before. */
function turns(kind: GameKind, best: Score, played: Score, side: Side, loss: number): boolean {
  if (loss < THRESHOLDS.mistake) return false;
  return (
    band(chanceOf(kind, best, side)) !== band(chanceOf(kind, played, side)) ||
    loss >= THRESHOLDS.blunder
  );
}
