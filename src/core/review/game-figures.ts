import type { Side } from '../game/ruleset';
import type { Findings, MoveReview } from './review';
import { trendOf, type Trend } from './summary';
import { FLAGS, type Flag } from './verdict';

/** What a sweep says of one side's moves, in figures that are set beside those of other games. */
export interface SideFigures {
  accuracy: number | null;
  /** Standard error of the accuracy. */
  error: number | null;
  /** Moves that they rest on. */
  moves: number;
  meanLoss: number | null;
  flags: Record<Flag, number>;
  /** The move that lost most, from 1; null where none was flagged. */
  worst: { ply: number; loss: number } | null;
}

export interface GameFigures {
  trend: Trend | null;
  sides: readonly [SideFigures, SideFigures];
}

/** The figures of a game, from what a sweep says of it. */
export function figuresOf({ moves, course, accuracy }: Findings): GameFigures {
  const of = (side: Side): SideFigures => {
    const own = moves.filter((move): move is MoveReview => move?.side === side);
    const count = (flag: Flag): number => own.filter(({ verdict }) => verdict === flag).length;
    const flags = Object.fromEntries(FLAGS.map((flag) => [flag, count(flag)]));
    const worst = own.reduce<MoveReview | null>(
      (most, move) => (move.loss > (most?.loss ?? 0) ? move : most),
      null,
    );
    const { value, error, moves: rated, meanLoss } = accuracy[side];
    return {
      accuracy: value,
      error,
      moves: rated,
      meanLoss,
      flags: flags as Record<Flag, number>,
      worst: worst && worst.verdict in flags ? { ply: worst.ply, loss: worst.loss } : null,
    };
  };
  return { trend: trendOf(course)?.trend ?? null, sides: [of(0), of(1)] };
}
