import { signOfNag } from '@/core/review/verdict';
import type { Ruleset, Position, WritingName } from '@/core/game/ruleset';
import { nodeOf, ROOT, type GameTree, type NodeId } from '@/core/game/tree';
import { moveText, numberText } from '../move-text';

/** A piece of a printed score's running text. */
export type Run =
  | { type: 'move'; node: NodeId; text: string; isMain: boolean; position: Position }
  | { type: 'words'; text: string; isLesson: boolean }
  | { type: 'open' }
  | { type: 'close' };

/**
 * A game as running text, as a printed bulletin sets it: each move with its number where one is needed, words after it,
 * variations in brackets behind the move that they could have been played for.
 */
export function printedRuns(tree: GameTree, ruleset: Ruleset, notation: WritingName): Run[] {
  const runs: Run[] = [];
  const words = (id: NodeId): void => {
    const { comment, lesson } = nodeOf(tree, id);
    if (comment) runs.push({ type: 'words', text: comment, isLesson: false });
    if (lesson) runs.push({ type: 'words', text: lesson, isLesson: true });
  };
  const move = (id: NodeId, before: Position, isMain: boolean): Position => {
    const node = nodeOf(tree, id);
    if (node.before) runs.push({ type: 'words', text: node.before, isLesson: false });
    const parent = nodeOf(tree, node.parent!);
    const previous = parent.id === ROOT ? null : parent.move;
    // the second side's move has its number only where something came between
    const follows = runs.at(-1)?.type === 'move';
    const numbered = !follows || ruleset.numbering === 'ply' || ruleset.side(before) === 0;
    const signs = (node.symbols ?? []).map(signOfNag).join(' ');
    const text = `${numbered ? `${numberText(ruleset, before)} ` : ''}${moveText(ruleset, before, node.move, previous, notation)}${signs}`;
    const position = ruleset.play(before, node.move);
    runs.push({ type: 'move', node: id, text, isMain, position });
    words(id);
    return position;
  };
  const line = (from: NodeId, start: Position, isMain: boolean): void => {
    let at = from;
    let position = start;
    for (;;) {
      const [next, ...others] = nodeOf(tree, at).children;
      if (next === undefined) return;
      const after = move(next, position, isMain);
      for (const other of others) {
        runs.push({ type: 'open' });
        const varied = move(other, position, false);
        line(other, varied, false);
        runs.push({ type: 'close' });
      }
      at = next;
      position = after;
    }
  };
  words(ROOT);
  line(ROOT, ruleset.start(tree.start), true);
  return runs;
}
