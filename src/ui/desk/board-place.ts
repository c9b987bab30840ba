import type { Position } from '@/core/game/ruleset';
import { insertLine, type Edit } from '@/core/game/edits';
import type { Move } from '@/core/game/move';
import type { GameRecord } from '@/core/game/record';
import { pathTo, ROOT, type NodeId } from '@/core/game/tree';
import { walk } from '@/core/game/walk';
import { rulesetOf } from '@/core/rulesets';
import { newIdFor } from '../document';
import type { GameView } from '../game-view';

/** What is on the board: a node of the game, or a position some moves down a line that leaves from it. */
export interface BoardPlace {
  node: NodeId;
  /** UCI or USI; empty at the node itself. */
  way: readonly string[];
  position: Position;
  /** The move that led here; null at the start. */
  move: Move | null;
  /** All earlier positions, the start first. */
  history: readonly Position[];
  /** Equal for the same position reached by the same moves: those moves, in UCI or USI. */
  name: string;
}

/** @param codes the way from the node, in UCI or USI; what cannot be played ends it */
export function placeAt(view: GameView, node: NodeId, codes: readonly string[]): BoardPlace {
  const { ruleset } = view;
  const path = pathTo(view.record.tree, node);
  const positions = [ROOT, ...path.map(({ id }) => id)].map((id) => view.positionOf(id));
  const moves = path.map(({ move }) => move);
  const walked = walk(ruleset, positions.at(-1)!, codes);
  positions.push(...walked.map(({ after }) => after));
  moves.push(...walked.map(({ move }) => move));
  return {
    node,
    way: walked.map(({ code }) => code),
    position: positions.at(-1)!,
    move: moves.at(-1) ?? null,
    history: positions.slice(0, -1),
    name: moves.map((move) => ruleset.code(move)).join(' '),
  };
}

/** Puts a line that leaves from what is on the board into the sheet. */
export const insertFrom = (
  { tree }: GameRecord,
  place: BoardPlace,
  codes: readonly string[],
): Edit =>
  insertLine(
    tree,
    place.node,
    [...place.way, ...codes].map((code) => rulesetOf(tree.kind).parseCode(code)!),
    newIdFor(tree),
  );
