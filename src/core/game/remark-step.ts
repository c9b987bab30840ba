import type { Step } from './steps';
import { mainLine, type AnnotationField, type GameTree, type NodeId } from './tree';

/** What is written about a game; the rest of what stands at a node are facts of it. */
const WORDS: readonly AnnotationField[] = [
  'before',
  'comment',
  'symbols',
  'marks',
  'lesson',
  'cause',
];

/**
 * Whether a step only says something of a game and leaves the game as it is: words, symbols and marks, and variations beside the moves
 * that were played. A variation is taken away only by those who put it in.
 * @param isOwn whether a node was put in by who takes the step
 */
export function isRemark(tree: GameTree, step: Step, isOwn: (node: NodeId) => boolean): boolean {
  switch (step.type) {
    case 'annotate':
      return WORDS.includes(step.field);
    case 'insert': {
      const parent = tree.nodes.get(step.parent);
      if (!parent) return false;
      return step.index > 0 || !isPlayed(tree, parent.id);
    }
    case 'remove':
      return !isPlayed(tree, step.node) && isOwn(step.node);
    default:
      return false;
  }
}

/** Whether a node is of the moves that were played, or the start. */
const isPlayed = (tree: GameTree, node: NodeId): boolean =>
  tree.nodes.get(node)?.parent === null || mainLine(tree).some(({ id }) => id === node);
