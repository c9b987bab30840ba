import type { GameRecord } from '../game/record';
import type { SearchRoot, Position } from '../game/ruleset';
import { mainLine, positionsAlong } from '../game/tree';
import type { PositionEvaluation } from '../review/evaluation';
import type { SweepSettings } from '../review/sweep-settings';
import { rulesetOf } from '../rulesets';
import { evaluate, evaluationOf } from './evaluate';
import type { Plan } from './question';

/** A position of a main line, as a sweep asks about it. */
export interface SweptPosition {
  ply: number;
  position: Position;
  root: SearchRoot;
  /** UCI or USI; null at the end of the line. */
  played: string | null;
  /** Nothing to search: the game is over by mate or for want of moves or material. */
  over: boolean;
}

/** The positions of a game's main line, the start first. */
export function sweptPositions({ tree }: GameRecord): SweptPosition[] {
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const along = positionsAlong(ruleset, tree.start, line);
  return along.map((position, ply) => ({
    ply,
    position,
    root: ruleset.searchRoot(position, along.slice(0, ply)),
    played: line[ply] ? ruleset.code(line[ply].move) : null,
    over: ruleset.status(position, []).state === 'over',
  }));
}

/** What a sweep has found so far. */
export interface Swept {
  /** Positions that nothing more will be asked about. */
  done: number;
  /** By ply; null where the game is over by the rules, or not reached yet. */
  evaluations: readonly (PositionEvaluation | null)[];
}

/** Goes over every main-line position of a game. @param width how many positions are asked about at a time */
export const sweepGame =
  (record: GameRecord, settings: SweepSettings, width: number): Plan<Swept> =>
  async (ask, tell) => {
    const positions = sweptPositions(record);
    const evaluations: (PositionEvaluation | null)[] = positions.map(() => null);
    const left = positions.filter(({ over }) => !over);
    let done = positions.length - left.length;
    const goOn = async (): Promise<void> => {
      for (let next = left.shift(); next; next = left.shift()) {
        const found = await evaluate(ask, record.tree.kind, next, settings);
        evaluations[next.ply] = evaluationOf(found);
        tell({ done: ++done, evaluations });
      }
    };
    await Promise.all(Array.from({ length: width }, goOn));
    return { done, evaluations };
  };
