import {
  ANNOTATION_FIELDS,
  nodeOf,
  nodesInOrder,
  ROOT,
  TreeBuilder,
  type Annotations,
  type GameTree,
  type NodeId,
} from '../game/tree';

/** What is said of moves whoever plays them, in whatever game. */
const SAID = [
  'before',
  'comment',
  'symbols',
  'marks',
] as const satisfies readonly (keyof Annotations)[];
const LEFT_OUT = ANNOTATION_FIELDS.filter((field) => !SAID.some((said) => said === field));

/** The moves of a tree with the words, signs and marks at them, without what belongs to one game: clocks, evaluations, lessons. */
export function linesOf({ kind, start, nodes }: GameTree): GameTree {
  const kept = [...nodes].map(([id, node]) => {
    const bare = { ...node };
    for (const field of LEFT_OUT) delete bare[field];
    return [id, bare] as const;
  });
  return { kind, start, nodes: new Map(kept) };
}

/** How many half moves from the start the main line of one tree has in common with the lines of another. */
export function commonPlies(one: GameTree, other: GameTree): number {
  let plies = 0;
  let theirs = nodeOf(other, ROOT);
  for (let [next] = nodeOf(one, ROOT).children; next !== undefined; plies++) {
    const { move, children } = nodeOf(one, next);
    const same = theirs.children.find((child) => nodeOf(other, child).move === move);
    if (same === undefined) return plies;
    theirs = nodeOf(other, same);
    [next] = children;
  }
  return plies;
}

/** Trees of one start as one: each line once, what is said of a move as the first that says something of it has it. Null: too much. */
export function joinedLines([first, ...others]: readonly [
  GameTree,
  ...GameTree[],
]): GameTree | null {
  const joined = new TreeBuilder(first.kind, first.start);
  const children = new Map<string, NodeId>();
  for (const tree of [first, ...others]) {
    const mine = new Map<NodeId, NodeId>();
    for (const { id, parent, move, ...node } of nodesInOrder(tree)) {
      let own: NodeId = ROOT;
      if (parent !== null) {
        const above = mine.get(parent)!;
        const name = `${above} ${move}`;
        const known = children.get(name);
        if (known === undefined && joined.fullAt(above)) return null;
        own = known ?? joined.add(above, move);
        children.set(name, own);
      }
      mine.set(id, own);
      const draft = joined.node(own);
      const unsaid = SAID.filter(
        (field) => draft[field] === undefined && node[field] !== undefined,
      );
      Object.assign(draft, Object.fromEntries(unsaid.map((field) => [field, node[field]])));
    }
  }
  return joined.build();
}
