import type { Move } from '../game/move';
import type { Position, Ruleset, Side } from '../game/ruleset';
import { nodeOf, nodesInOrder, ROOT, type GameTree, type NodeId } from '../game/tree';

/** A tree of lines that a player has prepared for a side. */
export interface Sheet {
  id: number;
  tree: GameTree;
}

/** A move of a preparation, and the position that it leads to. */
export interface PreparedMove {
  move: Move;
  key: bigint;
}

/** A position that a preparation holds. */
export interface PreparedPosition {
  position: Position;
  toMove: Side;
  /** What is to be played, the first choice first; where the opponent is to move, the replies that are reckoned with. */
  moves: readonly PreparedMove[];
  /** Where it stands first. */
  at: { sheet: number; node: NodeId };
}

/** All that a player has prepared for a side: lines that come together are one. */
export interface Preparation {
  ruleset: Ruleset;
  side: Side;
  /** By key. */
  positions: ReadonlyMap<bigint, PreparedPosition>;
  /** With what its sheets begin, each once. */
  starts: readonly bigint[];
}

/** @param sheets all of the ruleset's game */
export function preparationOf(ruleset: Ruleset, side: Side, sheets: readonly Sheet[]): Preparation {
  const positions = new Map<bigint, PreparedPosition & { moves: PreparedMove[] }>();
  const starts = new Set<bigint>();
  for (const { id: sheet, tree } of sheets) {
    /** Of nodes whose children are still to come. */
    const open = new Map<NodeId, Position>();
    for (const { id: node, parent, move, children } of nodesInOrder(tree)) {
      const before = parent === null ? null : open.get(parent)!;
      const position = before ? ruleset.play(before, move) : ruleset.start(tree.start);
      const key = ruleset.key(position);
      if (before) {
        const { moves } = positions.get(ruleset.key(before))!;
        if (!moves.some((known) => known.move === move)) moves.push({ move, key });
        if (nodeOf(tree, parent!).children.at(-1) === node) open.delete(parent!);
      } else starts.add(key);
      if (children.length > 0) open.set(node, position);
      if (!positions.has(key))
        positions.set(key, {
          position,
          toMove: ruleset.side(position),
          moves: [],
          at: { sheet, node },
        });
    }
  }
  return { ruleset, side, positions, starts: [...starts] };
}

/** Where a game and a preparation part. */
export interface Parting {
  /** The half move that the preparation does not hold, from 1; null: it holds the game to its end. */
  ply: number | null;
  /** Who left it; `end`: the line ends there. */
  by: 'self' | 'opponent' | 'end' | null;
  /** What it would have gone on with. */
  prepared: readonly Move[];
}

/**
 * Where a game left a preparation: at the first move that leads to no position of it, so that another order of moves is none. Null where
 * the preparation does not know how the game begins.
 */
export function parting(
  { ruleset, side, positions }: Preparation,
  start: string,
  moves: readonly Move[],
): Parting | null {
  const keys = ruleset.keysAlong(ruleset.start(start), moves);
  if (!positions.has(keys[0]!)) return null;
  const index = keys.findIndex((key) => !positions.has(key));
  const here = positions.get(keys.at(index === -1 ? -1 : index - 1)!)!;
  const prepared = here.moves.map(({ move }) => move);
  if (index === -1) return { ply: null, by: null, prepared };
  const by = prepared.length === 0 ? 'end' : here.toMove === side ? 'self' : 'opponent';
  return { ply: index, by, prepared };
}

/** What a preparation holds, in figures. */
export function sizeOf(tree: GameTree): { lines: number; moves: number } {
  const nodes = [...tree.nodes.values()];
  const ends = nodes.filter(({ id, children }) => id !== ROOT && children.length === 0);
  return { lines: ends.length, moves: nodes.length - 1 };
}
