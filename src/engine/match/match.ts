import { winFor } from '@/core/game/result';
import { otherSide, type Ruleset, type Side } from '@/core/game/ruleset';
import type { Score } from '@/core/game/score';
import type { Budget } from '@/core/ask/question';
import type { Engine } from '../contract';
import { valueFor } from '../draw';

export interface Player {
  engine: Engine;
  budget: Budget;
}

const MOST_PLIES = 400;
const DECIDED = { score: 1200, moves: 4 };

/**
 * Plays one game from an opening; returns the points of the player who has side 0: 1, 0.5 or 0. A game is given up
 * when both players have agreed for some moves on who is winning.
 */
export async function playMatchGame<P>(
  ruleset: Ruleset<P>,
  players: readonly [Player, Player],
  opening: readonly string[],
): Promise<number> {
  const positions = [ruleset.start()];
  const codes = [...opening];
  for (const code of opening)
    positions.push(ruleset.play(positions.at(-1)!, ruleset.parseCode(code)!));
  const start = ruleset.write(positions[0]!);
  const decided = [0, 0];
  const first = [true, true];
  for (let ply = opening.length; ply < MOST_PLIES; ply++) {
    const position = positions.at(-1)!;
    const history = positions.slice(0, -1);
    const side = ruleset.side(position);
    const status = ruleset.status(position, history);
    if (status.state === 'over') return pointsOf(status.result);
    const [claim] = status.claims;
    if (claim)
      return claim.claim === 'declaration' && claim.result === 'win' ? pointsOf(winFor(side)) : 0.5;
    const { engine, budget } = players[side];
    const info = await engine.search({
      kind: ruleset.kind,
      root: ruleset.searchRoot(position, history),
      game: { start, moves: codes },
      budget,
      lines: 1,
      fresh: first[side]!,
    });
    first[side] = false;
    const [line] = info.lines;
    const move = line ? ruleset.parseCode(line.moves[0]!) : null;
    // no move, or one that is not legal, loses
    if (!line || move === null || !ruleset.isLegal(position, move)) return side === 0 ? 0 : 1;
    const value = signed(line.score);
    decided[side] =
      Math.abs(value) >= DECIDED.score
        ? Math.sign(value) * (Math.max(0, Math.sign(value) * decided[side]!) + 1)
        : 0;
    if (decided.every((moves) => moves >= DECIDED.moves)) return 1;
    if (decided.every((moves) => moves <= -DECIDED.moves)) return 0;
    codes.push(line.moves[0]!);
    positions.push(ruleset.play(position, move));
  }
  return 0.5;
}

const signed = (score: Score): number => valueFor(score, 0 satisfies Side);

const pointsOf = (result: string): number =>
  result === winFor(0) ? 1 : result === winFor(otherSide(0)) ? 0 : 0.5;
