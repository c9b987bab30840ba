import type { GameRecord } from '../game/record';
import type { Position, SearchRoot } from '../game/ruleset';
import type { Score } from '../game/score';
import { NULL_MOVE } from '../game/move';
import {
  lineFrom,
  mainLine,
  pathTo,
  positionsAlong,
  type GameNode,
  type GameTree,
} from '../game/tree';
import type { PositionEvaluation } from '../review/evaluation';
import type { Scope } from '../review/sweep-settings';
import { valueOf } from '../review/value';
import { rulesetOf } from '../rulesets';

/** A position of a line, as a sweep asks about it. */
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
export const sweptPositions = ({ tree }: GameRecord): SweptPosition[] =>
  sweptAlong(tree, mainLine(tree));

/** The positions along a line that begins with the game. */
export function sweptAlong(tree: GameTree, line: readonly GameNode[]): SweptPosition[] {
  const ruleset = rulesetOf(tree.kind);
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

type Stretch = Pick<Scope, 'from' | 'to'>;

/** A variation with the way to it. */
export interface SweptLine {
  /** From the first move of the game. */
  nodes: readonly GameNode[];
  /** The ply of the first move that is its own. */
  from: number;
}

/**
 * The variations of a game, also those within others, that leave it in a stretch; each as far as its moves are moves, and no passes.
 */
export function variationsOf(
  tree: GameTree,
  { from = 1, to = Infinity }: Stretch = {},
): SweptLine[] {
  const found: SweptLine[] = [];
  const isPlayed = new Set(mainLine(tree).map(({ id }) => id));
  for (const { children } of tree.nodes.values())
    for (const id of children.slice(1)) {
      const path = pathTo(tree, id);
      const left = path.findIndex((node) => !isPlayed.has(node.id)) + 1;
      if (left < from || left > to) continue;
      const nodes = [...path, ...lineFrom(tree, id)];
      const pass = nodes.findIndex(({ move }) => move === NULL_MOVE);
      const known = pass < 0 ? nodes : nodes.slice(0, pass);
      if (known.length >= path.length) found.push({ nodes: known, from: path.length });
    }
  return found;
}

/** How far a sweep has come, in positions of {@link total}, and what it has found along a line. */
export interface LineSwept {
  done: number;
  total: number;
  /** By ply; null where the game is over by the rules, or not reached yet. */
  evaluations(): readonly (PositionEvaluation | null)[];
}

/** What a sweep has found: along the main line, and along those variations that it goes over. */
export interface Found {
  /** By ply; null where the game is over by the rules, or nothing is known. */
  evaluations(): readonly (PositionEvaluation | null)[];
  variations(): readonly SweptVariation[];
}

/** The same, while it is under way. */
export type Swept = LineSwept & Found;

export interface SweptVariation extends SweptLine {
  evaluations: readonly (PositionEvaluation | null)[];
}
