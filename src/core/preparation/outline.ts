import { nodeOf, ROOT, type GameTree, type NodeId } from '../game/tree';

/** Moves of a sheet that follow each other without another choice. */
export interface Stretch {
  /** From the first to the last; their moves lead there one after the other. */
  nodes: readonly NodeId[];
  /** How many choices come before it. */
  depth: number;
}

/**
 * A sheet as stretches, each before those that branch off its end.
 * @param isSplit whether something else than a move stands behind a node, which ends a stretch too
 */
export function outlineOf(tree: GameTree, isSplit: (node: NodeId) => boolean): Stretch[] {
  const stretches: Stretch[] = [];
  const pending = nodeOf(tree, ROOT)
    .children.map((first) => ({ first, depth: 0 }))
    .reverse();
  for (let next = pending.pop(); next; next = pending.pop()) {
    const nodes = [next.first];
    let { children } = nodeOf(tree, next.first);
    while (children.length === 1 && !isSplit(nodes.at(-1)!)) {
      nodes.push(children[0]!);
      ({ children } = nodeOf(tree, children[0]!));
    }
    const depth = next.depth;
    stretches.push({ nodes, depth });
    pending.push(...children.map((first) => ({ first, depth: depth + 1 })).reverse());
  }
  return stretches;
}
