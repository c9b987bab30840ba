import type { Side } from './ruleset';
import type { TimeControl } from './time-control';
import type { GameNode } from './tree';

/** Time of one move, in milliseconds; null where it is not known. */
export interface MoveTime {
  spent: number | null;
  /** On the mover's clock after the move. */
  left: number | null;
  /** Of the byoyomi, when the move was made; null where the move needed none, or it is not known. */
  byoyomiLeft: number | null;
}

/** A move played faster than this was hardly thought about, in milliseconds. */
export const HASTY_MS = 10_000;

/**
 * Time spent and left for each move of a line, worked out from what the file gives and from the time control
 * where it gives only one of the two.
 * @param first the side that moves first
 */
export function timesAlong(
  line: readonly GameNode[],
  first: Side,
  control: TimeControl | null,
): MoveTime[] {
  const clocks = [sideClock(control), sideClock(control)];
  return line.map((node, ply) => clocks[(first + ply) % 2]!(node));
}

function byoyomiLeft(
  control: TimeControl | null,
  before: number | null,
  spent: number | null,
): number | null {
  const each = (control?.byoyomi ?? 0) * 1000;
  if (each === 0 || before === null || spent === null || spent < before) return null;
  return Math.max(0, each - (spent - before));
}

function sideClock(control: TimeControl | null): (node: GameNode) => MoveTime {
  const stages = control?.stages ?? [];
  let left = stages[0] ? stages[0].base * 1000 : null;
  let stage = 0;
  let movesInStage = 0;
  return (node) => {
    movesInStage++;
    const increment = (stages[stage]?.increment ?? 0) * 1000;
    const current = stages[stage];
    let bonus = increment;
    if (
      current &&
      current.moves !== null &&
      movesInStage >= current.moves &&
      stage + 1 < stages.length
    ) {
      stage++;
      movesInStage = 0;
      bonus += stages[stage]!.base * 1000;
    }
    const before = left;
    let spent = node.spent ?? null;
    if (node.clock !== undefined) left = node.clock;
    else if (before !== null && spent !== null) left = Math.max(0, before - spent) + bonus;
    else left = null;
    if (spent === null && node.clock !== undefined && before !== null) {
      const used = before + bonus - node.clock;
      spent = used >= 0 ? used : null;
    }
    return { spent, left, byoyomiLeft: byoyomiLeft(control, before, spent) };
  };
}
