import type { Side } from '../game/ruleset';
import { matesFor, type Findings } from './review';

/** A mate that a side had on the board by force, until it was given, or let go. */
export interface ReachedMate {
  /** Of the first position in which it was that side's move: moves that led there. */
  ply: number;
  side: Side;
  /** From there on. */
  plies: number;
  /** A move after which it was there no more. */
  isLetGo: boolean;
}

/** The mates that were there in a game, one after the other. */
export function matesReached({ moves }: Findings): ReachedMate[] {
  const reached: ReachedMate[] = [];
  let open: ReachedMate | null = null;
  const letGo = (): void => {
    if (open) open.isLetGo = true;
    open = null;
  };
  for (const found of moves) {
    if (!found) {
      open = null;
      continue;
    }
    const { bestScore: best, playedScore, side } = found;
    if (open && !matesFor(best, open.side)) letGo();
    if (!open && matesFor(best, side)) {
      open = { ply: found.ply - 1, side, plies: best.plies, isLetGo: false };
      reached.push(open);
    }
    if (open?.side === side && !matesFor(playedScore, side)) letGo();
  }
  return reached;
}
