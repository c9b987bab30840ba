import type { GameKind, SearchRoot, Side } from '@/core/game/ruleset';
import { chanceOf, lossOf } from '@/core/review/chance';
import type { DepthPoint } from '@/core/review/settled';
import { THRESHOLDS } from '@/core/review/verdict';
import type { Engine, SearchLine } from '@/engine/contract';

/** A candidate with what was found of it. */
export interface Weighed {
  /** UCI or USI. */
  code: string;
  line: SearchLine;
  depth: number;
  /** Of all searches of this candidate, in milliseconds. */
  milliseconds: number;
  curve: readonly DepthPoint[];
}

export interface WeighTask {
  kind: GameKind;
  root: SearchRoot;
  side: Side;
  candidates: readonly string[];
}

const FROM_DEPTH = 6;
const TO_DEPTH = 60;

/**
 * Weighs candidates at equal depth, one depth after the other, until it is stopped or a time is over.
 * @param onDepth told of all candidates whenever a depth is complete for all of them
 * @param milliseconds after which no further depth is begun
 */
export async function weigh(
  engine: Engine,
  { kind, root, side, candidates }: WeighTask,
  milliseconds: number,
  onDepth: (weighed: readonly Weighed[]) => void,
  signal: AbortSignal,
): Promise<void> {
  const until = performance.now() + milliseconds;
  let weighed: readonly Weighed[] = [];
  for (let depth = FROM_DEPTH; depth <= TO_DEPTH; depth++) {
    const found: Weighed[] = [];
    for (const code of candidates) {
      const info = await engine.search(
        { kind, root, limits: { depth }, lines: 1, only: [code], fresh: false },
        { signal },
      );
      const [line] = info.lines;
      if (signal.aborted || !line) return;
      const before = weighed.find((one) => one.code === code);
      const chance = chanceOf(kind, line.score, side);
      const isMate = line.score.kind === 'mate';
      found.push({
        code,
        line,
        depth,
        milliseconds: (before?.milliseconds ?? 0) + info.milliseconds,
        curve: [...(before?.curve ?? []), { depth, chance, best: line.moves[1] ?? '', isMate }],
      });
    }
    weighed = found;
    onDepth(weighed);
    if (performance.now() >= until) return;
  }
}

/** A move of a calculated line, and what it should have been. */
export interface CalculatedMove {
  code: string;
  side: Side;
  /** Chance points that it gives away at the depth looked to. */
  loss: number;
  /** The better line at its place, and what follows the move itself. */
  better: SearchLine;
  played: SearchLine;
}

/** The first move of a calculated line that fails: it is no longer good enough to count on. */
export const firstFailure = (steps: readonly CalculatedMove[]): number =>
  steps.findIndex(({ loss }) => loss >= THRESHOLDS.mistake);

/**
 * Goes over a calculated line move by move and stops at the first that fails.
 * @param moves each with the position before it
 */
export async function goOver(
  engine: Engine,
  kind: GameKind,
  moves: readonly { code: string; side: Side; root: SearchRoot }[],
  depth: number,
  onStep: (steps: readonly CalculatedMove[]) => void,
  signal: AbortSignal,
): Promise<void> {
  const steps: CalculatedMove[] = [];
  for (const { code, side, root } of moves) {
    const look = (only?: readonly string[]) =>
      engine.search(
        { kind, root, limits: { depth }, lines: 1, fresh: false, ...(only ? { only } : {}) },
        { signal },
      );
    const best = (await look()).lines[0];
    const own = best?.moves[0] === code ? best : (await look([code])).lines[0];
    if (signal.aborted || !best || !own) return;
    const loss = lossOf(kind, best.score, own.score, side);
    steps.push({ code, side, loss, better: best, played: own });
    onStep([...steps]);
    if (firstFailure(steps) >= 0) return;
  }
}
