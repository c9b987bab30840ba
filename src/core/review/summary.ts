import { PHASES, type Phase, type Side } from '../game/ruleset';
import { matesFor, OPEN_FROM, OPEN_TO, type Findings, type MoveReview } from './review';
import { isFind, THRESHOLDS } from './verdict';

/** How a game went, from its course alone (docs/accuracy.md). */
export const TRENDS = ['level', 'one stroke', 'one way', 'slipped', 'turned', 'see-saw'] as const;
export type Trend = (typeof TRENDS)[number];

export interface GameTrend {
  trend: Trend;
  /** Who it was decided for in the end, or, where it slipped away, who had it; null where nobody or both had. */
  side: Side | null;
  /** The move with which that began for good, from 1; null where nothing was decided by a move. */
  ply: number | null;
}

/** A stretch in which small losses of a side added up with no flagged move among them. */
export interface Drift {
  /** Its first and last move that lost something, from 1. */
  from: number;
  to: number;
  /** Chance points lost in all. */
  loss: number;
}

/** An error of the other side that went unpunished. */
export interface LetOff {
  /** The move that did not punish it, from 1. */
  ply: number;
  /** Chance points of the error, and of those what this move gave back. */
  given: number;
  returned: number;
}

export interface PhaseLoss {
  phase: Phase;
  /** Chance points a move. */
  meanLoss: number;
  moves: number;
}

/** Milliseconds a move: at all moves whose time is known, and at those that lost a mistake's worth or more. */
export interface TimeUse {
  mean: number;
  moves: number;
  atErrors: number | null;
  errors: number;
}

export interface SideSummary {
  phases: readonly PhaseLoss[];
  /** Null where no time is known. */
  time: TimeUse | null;
  letOffs: readonly LetOff[];
  /** Moves in place of which mate could have been forced, from 1. */
  missedMates: readonly number[];
  drifts: readonly Drift[];
  /** Only moves that were found, from 1. */
  met: readonly number[];
}

export interface Summary {
  trend: GameTrend | null;
  sides: readonly [SideSummary, SideSummary];
}

/** A loss of less says nothing: searches differ by as much. */
const NOTICEABLE = 1;
/** Most own moves of a stretch that drifts. */
const DRIFT_MOVES = 10;

/** What a sweep's findings come to for each side, and how the game went. */
export function summaryOf(findings: Findings): Summary {
  const side = (side: Side): SideSummary => {
    const own = findings.moves.filter((move): move is MoveReview => move?.side === side);
    return {
      phases: phaseLosses(own),
      time: timeUse(own),
      letOffs: letOffs(own, findings.moves),
      missedMates: own.filter(missesMate).map(({ ply }) => ply),
      drifts: drifts(own),
      met: own.filter(({ verdict }) => isFind(verdict)).map(({ ply }) => ply),
    };
  };
  return { trend: trendOf(findings.course), sides: [side(0), side(1)] };
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

function phaseLosses(own: readonly MoveReview[]): PhaseLoss[] {
  return PHASES.flatMap((phase) => {
    const losses = own
      .filter((move) => move.phase === phase && move.isChoice)
      .map(({ loss }) => loss);
    return losses.length > 0 ? [{ phase, meanLoss: mean(losses), moves: losses.length }] : [];
  });
}

function timeUse(own: readonly MoveReview[]): TimeUse | null {
  const timed = own.flatMap(({ spent, loss }) => (spent === null ? [] : [{ spent, loss }]));
  if (timed.length === 0) return null;
  const errors = timed.filter(({ loss }) => loss >= THRESHOLDS.mistake);
  return {
    mean: mean(timed.map(({ spent }) => spent)),
    moves: timed.length,
    atErrors: errors.length > 0 ? mean(errors.map(({ spent }) => spent)) : null,
    errors: errors.length,
  };
}

/** Replies that give back at least half of what the move before had lost by an error. */
function letOffs(own: readonly MoveReview[], moves: Findings['moves']): LetOff[] {
  return own.flatMap(({ ply, loss }) => {
    const given = moves[ply - 2]?.loss ?? 0;
    if (given < THRESHOLDS.mistake || loss < given / 2) return [];
    return [{ ply, given, returned: Math.min(given, loss) }];
  });
}

const missesMate = ({ bestScore, playedScore, side }: MoveReview): boolean =>
  matesFor(bestScore, side) && !matesFor(playedScore, side);

/** The shortest stretches, none within another, whose noticeable losses come to a mistake's worth with no flagged move. */
function drifts(own: readonly MoveReview[]): Drift[] {
  const found: Drift[] = [];
  let stretch: MoveReview[] = [];
  for (const move of own) {
    if (move.loss >= THRESHOLDS.inaccuracy) {
      stretch = [];
      continue;
    }
    stretch.push(move);
    if (stretch.length > DRIFT_MOVES) stretch.shift();
    if (move.loss < NOTICEABLE) continue;
    let loss = 0;
    for (let index = stretch.length - 1; index >= 0; index--) {
      const { loss: lost, ply } = stretch[index]!;
      if (lost >= NOTICEABLE) loss += lost;
      if (loss < THRESHOLDS.mistake) continue;
      found.push({ from: ply, to: move.ply, loss });
      stretch = [];
      break;
    }
  }
  return found;
}

/** What the course alone says of how a game went; null before all of it is known. */
export function trendOf(course: Findings['course']): GameTrend | null {
  if (course.length === 0 || course.includes(null)) return null;
  const chances = course.map((value) => value!.chance);
  const decided = chances.map((chance) => (chance < OPEN_FROM ? 1 : chance > OPEN_TO ? 0 : null));
  /** Who had it decided, one after the other, and from which ply on. */
  const owners: { side: Side; ply: number }[] = [];
  decided.forEach((side, ply) => {
    if (side !== null && owners.at(-1)?.side !== side) owners.push({ side, ply });
  });
  const last = owners.at(-1);
  if (!last) return { trend: 'level', side: null, ply: null };
  const isOpen = decided.at(-1) === null;
  // since when it has stayed decided without a break; where it slipped away, since when it has been open
  const from = decided.findLastIndex((side) => side !== (isOpen ? null : last.side)) + 1;
  const ply = from > 0 ? from : null;
  if (owners.length > 2 || (owners.length === 2 && isOpen))
    return { trend: 'see-saw', side: isOpen ? null : last.side, ply };
  if (owners.length === 2) return { trend: 'turned', side: last.side, ply };
  if (isOpen) return { trend: 'slipped', side: last.side, ply };
  const stroke = ply === null ? 0 : Math.abs(chances[ply]! - chances[ply - 1]!);
  const isStroke = stroke >= THRESHOLDS.blunder && last.ply === ply;
  return { trend: isStroke ? 'one stroke' : 'one way', side: last.side, ply };
}
