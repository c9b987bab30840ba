import type { Side } from '../game/ruleset';
import { EXACT_DEPTH } from './evaluation';
import type { Findings, MoveReview } from './review';
import { summaryOf, type Trend } from './summary';
import { FLAGS, type Flag } from './verdict';

/** What a sweep says of one side's moves, in figures that are set beside those of other games; in the order in which they are stored. */
export const SIDE_FIGURES = [
  'accuracy',
  /** Standard error of the accuracy. */
  'error',
  /** Moves that they rest on. */
  'moves',
  'meanLoss',
  'inaccuracies',
  'mistakes',
  'blunders',
  /** The move that lost most, from 1, and its loss; null where none was flagged. */
  'worstPly',
  'worstLoss',
  /** Errors of the other side that went unpunished. */
  'letOffs',
  /** The best chance that the side ever had, 0–100. */
  'peak',
] as const;
export type SideFigure = (typeof SIDE_FIGURES)[number];
export type SideFigures = Readonly<Record<SideFigure, number | null>>;

export interface GameFigures {
  trend: Trend | null;
  turningPoints: number;
  /** Mean depth in plies to which the moves were looked at, but for those known exactly; null where none was. */
  depth: number | null;
  sides: readonly [SideFigures, SideFigures];
}

const PLURAL = {
  inaccuracy: 'inaccuracies',
  mistake: 'mistakes',
  blunder: 'blunders',
} as const satisfies Record<Flag, SideFigure>;

/** The figures of a game, from what a sweep says of it. */
export function figuresOf(findings: Findings): GameFigures {
  const { moves, course, accuracy } = findings;
  const { trend, sides } = summaryOf(findings);
  const known = moves.filter((move) => move !== null);
  const of = (side: Side): SideFigures => {
    const own = known.filter((move) => move.side === side);
    const worst = own.reduce<MoveReview | null>(
      (most, move) => (move.loss > (most?.loss ?? 0) ? move : most),
      null,
    );
    const isFlagged = worst !== null && worst.verdict in PLURAL;
    const chances = course.flatMap((value) =>
      value ? [side === 0 ? value.chance : 100 - value.chance] : [],
    );
    const { value, error, moves: rated, meanLoss } = accuracy[side];
    const flags = FLAGS.map((flag) => [
      PLURAL[flag],
      own.filter(({ verdict }) => verdict === flag).length,
    ]) as [(typeof PLURAL)[Flag], number][];
    return {
      ...(Object.fromEntries(flags) as Record<(typeof PLURAL)[Flag], number>),
      accuracy: value,
      error,
      moves: rated,
      meanLoss,
      worstPly: isFlagged ? worst.ply : null,
      worstLoss: isFlagged ? worst.loss : null,
      letOffs: sides[side].letOffs.length,
      peak: chances.length > 0 ? Math.max(...chances) : null,
    };
  };
  const searched = known.filter(({ depth }) => depth !== EXACT_DEPTH);
  return {
    trend: trend?.trend ?? null,
    turningPoints: known.filter(({ isTurningPoint }) => isTurningPoint).length,
    depth:
      searched.length > 0
        ? searched.reduce((sum, { depth }) => sum + depth, 0) / searched.length
        : null,
    sides: [of(0), of(1)],
  };
}

/** A side's figures as they are stored. */
export const packFigures = (figures: SideFigures): (number | null)[] =>
  SIDE_FIGURES.map((name) => figures[name]);
