import { CHANCE_SCALE } from '@/core/review/chance';
import type { Ruleset } from '@/core/game/ruleset';
import type { Answer } from '@/core/ask/question';
import { searchLast } from '../search-last';
import type { SearchModule } from '../search-module';
import { drawLine, valueFor } from '../draw';
import type { SuitePosition } from './suite-position';

const GLANCE_NODES = 400;
const LOOK_NODES = 40_000;
const MARGIN = 200;
/** Neither side is far ahead before the tactic, nor is the second best move good enough: times the chance scale. */
const MOST_BEFORE = 2.5;
const MOST_NEXT = 3.3;
const TEMPERATURE = 50;
const FROM_PLY = 12;
const MOST_PLIES = 140;

/** Nodes behind the verdict that a position belongs into the suite. */
export const PROOF_NODES = 3_000_000;

/** Plays a game of hasty moves and returns the first tactic in it that a deep search confirms, or null. */
export function findTactic<P>(
  ruleset: Ruleset<P>,
  search: SearchModule,
  random: () => number,
): SuitePosition | null {
  const positions = [ruleset.start()];
  const mostNext = MOST_NEXT * CHANCE_SCALE[ruleset.kind];
  const think = (nodes: number, lines: number, fresh: boolean): Answer =>
    searchLast(ruleset, search, positions, { nodes, lines, fresh });
  search.clear();
  for (let ply = 0; ply < MOST_PLIES; ply++) {
    const position = positions.at(-1)!;
    const side = ruleset.side(position);
    if (ruleset.status(position, positions.slice(0, -1)).state === 'over') return null;
    const glance = think(GLANCE_NODES, 4, false);
    const [first] = glance.lines;
    if (!first) return null;
    const seen = valueFor(first.score, side);
    if (ply >= FROM_PLY && Math.abs(seen) < MOST_BEFORE * CHANCE_SCALE[ruleset.kind]) {
      const tactic = confirmed(think, LOOK_NODES, side, mostNext);
      if (tactic && tactic.best !== first.moves[0] && tactic.value > seen + MARGIN / 2) {
        const proof = confirmed(think, PROOF_NODES, side, mostNext);
        if (proof?.best === tactic.best)
          return { position: ruleset.write(position), best: proof.best, margin: proof.margin };
      }
    }
    const drawn = drawLine(glance.lines, side, TEMPERATURE, random);
    const move = ruleset.parseCode(drawn.moves[0]!)!;
    positions.push(ruleset.play(position, move));
  }
  return null;
}

function confirmed(
  think: (nodes: number, lines: number, fresh: boolean) => Answer,
  nodes: number,
  side: 0 | 1,
  mostNext: number,
): { best: string; value: number; margin: number } | null {
  const { lines } = think(nodes, 2, true);
  if (lines.length < 2) return null;
  const [value, next] = lines.map(({ score }) => valueFor(score, side)) as [number, number];
  const margin = Math.min(9999, value - next);
  return margin >= MARGIN && next < mostNext ? { best: lines[0]!.moves[0]!, value, margin } : null;
}
