import type { GameRecord } from '../game/record';
import type { Position, SearchRoot } from '../game/ruleset';
import type { Score } from '../game/score';
import { mainLine, positionsAlong } from '../game/tree';
import type { PositionEvaluation } from '../review/evaluation';
import { valueOf } from '../review/value';
import { rulesetOf } from '../rulesets';

/** A position of a main line, as a sweep asks about it. */
export interface SweptPosition {
  ply: number;
  position: Position;
  root: SearchRoot;
  /** UCI or USI; null at the end of the line. */
  played: string | null;
  /** What it is worth by the rules, which have ended the game; null: there is something to search. */
  over: Score | null;
}

/** The positions of a game's main line, the start first. */
export function sweptPositions({ tree }: GameRecord): SweptPosition[] {
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const along = positionsAlong(ruleset, tree.start, line);
  return along.map((position, ply) => {
    const history = along.slice(0, ply);
    return {
      ply,
      position,
      root: ruleset.searchRoot(position, history),
      played: line[ply] ? ruleset.code(line[ply].move) : null,
      over: valueOf(ruleset, position, history, null)?.score ?? null,
    };
  });
}

/** What a sweep has found so far. */
export interface Swept {
  /** How far it has come, in positions of {@link total}. */
  done: number;
  total: number;
  /** By ply; null where the game is over by the rules, or not reached yet. */
  evaluations(): readonly (PositionEvaluation | null)[];
}
