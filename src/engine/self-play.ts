import type { Move } from '@/core/game/move';
import type { EndReason, Result } from '@/core/game/result';
import { winFor } from '@/core/game/result';
import { otherSide, type Ruleset, type Side } from '@/core/game/ruleset';
import type { Score } from '@/core/game/score';
import { drawLine, valueFor } from './draw';
import { searchLast } from './search-last';
import type { SearchModule } from './search-module';

/** How a made-up player plays: how far it looks, and how readily it takes a move that looks nearly as good. */
export interface Level {
  nodes: number;
  /** Hundredths of a pawn by which a move may look worse and still be taken one time in e. */
  temperature: number;
}

export interface PlayedMove {
  move: Move;
  /** From the view of side 0, as the mover saw it. */
  score: Score;
}

export interface PlayedGame {
  moves: PlayedMove[];
  result: Exclude<Result, '*'>;
  end: EndReason;
}

const LINES = 5;
const MOST_PLIES = 320;
const RESIGN_AT = 900;
const RESIGN_AFTER = 3;
const AGREE_FROM_PLY = 70;
const AGREE_WITHIN = 12;
const AGREE_AFTER = 10;

export interface GamePlan {
  /** FEN or SFEN. */
  start: string;
  /** UCI or USI moves that are played without thought. */
  opening: readonly string[];
  /** The level at a ply, for players who now and then hardly look. */
  levelAt(side: Side, ply: number): Level;
  /** Numbers in [0, 1) behind every choice. */
  random(): number;
}

/** Plays a game between two made-up players. */
export function playGame<P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  { start, opening, levelAt, random }: GamePlan,
): PlayedGame {
  const positions = [ruleset.start(start)];
  const moves: PlayedMove[] = [];
  for (const code of opening) {
    const move = ruleset.parseCode(code)!;
    moves.push({ move, score: { kind: 'cp', cp: 0 } });
    positions.push(ruleset.play(positions.at(-1)!, move));
  }
  let resignAt: number | null = null;
  const lost = [0, 0];
  let level = 0;
  for (let ply = opening.length; ply < MOST_PLIES; ply++) {
    const position = positions.at(-1)!;
    const side = ruleset.side(position);
    const status = ruleset.status(position, positions.slice(0, -1));
    if (status.state === 'over') return { moves, result: status.result, end: status.end };
    const [claim] = status.claims;
    if (claim?.claim === 'declaration' && claim.result === 'win')
      return { moves, result: winFor(side), end: 'declaration' };
    if (claim && claim.claim !== 'declaration')
      return {
        moves,
        result: '1/2-1/2',
        end: claim.claim === 'fifty moves' ? 'fifty moves' : 'repetition',
      };
    const { nodes, temperature } = levelAt(side, ply);
    const info = searchLast(ruleset, module, positions, { nodes, lines: LINES });
    const best = valueFor(info.lines[0]!.score, side);
    // who starts with a handicap does not resign for it
    resignAt ??= RESIGN_AT + Math.abs(best);
    lost[side] = best < -resignAt ? lost[side]! + 1 : 0;
    if (lost[side]! > RESIGN_AFTER)
      return { moves, result: winFor(otherSide(side)), end: 'resignation' };
    level = ply > AGREE_FROM_PLY && Math.abs(best) <= AGREE_WITHIN ? level + 1 : 0;
    if (ruleset.kind === 'chess' && level > AGREE_AFTER)
      return { moves, result: '1/2-1/2', end: 'agreement' };
    const line = drawLine(info.lines, side, temperature, random);
    const move = ruleset.parseCode(line.moves[0]!)!;
    moves.push({ move, score: line.score });
    positions.push(ruleset.play(position, move));
  }
  return { moves, result: '1/2-1/2', end: ruleset.kind === 'shogi' ? 'impasse' : 'agreement' };
}
