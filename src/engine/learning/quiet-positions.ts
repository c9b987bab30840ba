import { CHANCE_SCALE } from '@/core/review/chance';
import type { Answer } from '@/core/ask/question';
import type { Ruleset } from '@/core/game/ruleset';
import { searchLast } from '../search-last';
import type { SearchModule } from '../search-module';
import { drawLine, valueFor } from '../draw';
import { changesMaterial } from './samples';
import type { SuitePosition } from './suite-position';

/** Nodes of a move of the game, of a first and a closer look at a position, and of the proof. */
export interface QuietEffort {
  move: number;
  glance: number;
  look: number;
  proof: number;
}

const EFFORT: QuietEffort = { move: 2000, glance: 10_000, look: 300_000, proof: 8_000_000 };
/** Times the chance scale: by how much the best move is better than the next, and how far a side may be ahead. */
const [MARGIN, MOST_AHEAD] = [0.12, 1];
/** Hundredths of a pawn. */
const TEMPERATURE = 20;
const [FROM_PLY, MOST_PLIES] = [16, 110];
/** Not each position of a game is looked at: neighbours have much in common. */
const SHARE = 0.25;

/**
 * Plays a game and returns its first position where a quiet move (neither a capture, nor a promotion, nor a check) is best by both of two
 * engines' long searches, though a glance by one of them, drawn by lot, finds another; null where there is none.
 */
export function findQuietPosition<P>(
  ruleset: Ruleset<P>,
  engines: readonly [SearchModule, SearchModule],
  random: () => number,
  effort = EFFORT,
): SuitePosition | null {
  const scale = CHANCE_SCALE[ruleset.kind];
  const positions = [ruleset.start()];
  const think = (engine: SearchModule, nodes: number, lines: number): Answer =>
    searchLast(ruleset, engine, positions, { nodes, lines });
  for (let ply = 0; ply < MOST_PLIES; ply++) {
    const position = positions.at(-1)!;
    const side = ruleset.side(position);
    if (ruleset.status(position, positions.slice(0, -1)).state === 'over') return null;
    const [one, other] = random() < 0.5 ? engines : [engines[1], engines[0]];
    const { lines } = think(one, effort.move, 4);
    const isOpen = Math.abs(valueFor(lines[0]!.score, side)) < MOST_AHEAD * scale;
    if (ply >= FROM_PLY && isOpen && !ruleset.inCheck(position) && random() < SHARE) {
      const glance = think(one, effort.glance, 1).lines[0]!.moves[0];
      const look = clearlyBest(think(one, effort.look, 2), side, MARGIN * scale);
      if (look && look.best !== glance && isQuiet(ruleset, position, look.best)) {
        const proof = clearlyBest(think(one, effort.proof, 2), side, MARGIN * scale);
        const again = proof && clearlyBest(think(other, effort.proof, 2), side, MARGIN * scale);
        if (again && proof.best === look.best && again.best === look.best)
          return {
            position: ruleset.write(position),
            best: look.best,
            margin: Math.min(proof.margin, again.margin),
          };
      }
    }
    const move = drawLine(lines, side, TEMPERATURE, random).moves[0]!;
    positions.push(ruleset.play(position, ruleset.parseCode(move)!));
  }
  return null;
}

function clearlyBest(
  { lines }: Answer,
  side: 0 | 1,
  least: number,
): { best: string; margin: number } | null {
  const [first, second] = lines;
  if (first?.score.kind !== 'cp' || second?.score.kind !== 'cp') return null;
  const margin = valueFor(first.score, side) - valueFor(second.score, side);
  return margin >= least ? { best: first.moves[0]!, margin } : null;
}

/** Whether a move, in UCI or USI, neither takes nor promotes nor gives check. */
export function isQuiet<P>(ruleset: Ruleset<P>, position: P, code: string): boolean {
  const after = ruleset.play(position, ruleset.parseCode(code)!);
  return !ruleset.inCheck(after) && !changesMaterial(ruleset, position, after);
}
