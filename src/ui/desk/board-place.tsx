'use client';

import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { insertLine, type Edit } from '@/core/game/edits';
import type { Move } from '@/core/game/move';
import type { GameRecord } from '@/core/game/record';
import { pathTo, ROOT, type NodeId } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { newIdFor, useDesk, useDeskStore } from './desk-store';

const NO_WAY: readonly string[] = [];

/** What is on the board: a node of the game, or a position some moves down a line that leaves from it. */
export interface BoardPlace {
  node: NodeId;
  /** UCI or USI; empty at the node itself. */
  way: readonly string[];
  position: unknown;
  /** The move that led here; null at the start. */
  move: Move | null;
  /** All earlier positions, the start first. */
  history: readonly unknown[];
  /** Equal for the same position reached by the same moves: those moves, in UCI or USI. */
  name: string;
}

const PlaceContext = createContext<BoardPlace | null>(null);

/** Works out what is on the board, once for all who show it. */
export function PlaceProvider({ children }: { children: ReactNode }) {
  const store = useDeskStore();
  const node = useDesk((state) => state.node);
  const codes = useDesk(({ excursion }) => excursion?.codes ?? NO_WAY);
  const step = useDesk(({ excursion }) => excursion?.step ?? 0);
  const place = useMemo(() => {
    // a node's position and history never change, whatever is edited beside it
    const { view } = store.getState();
    const { ruleset } = view;
    const path = pathTo(view.record.tree, node);
    const positions = [ROOT, ...path.map(({ id }) => id)].map((id) => view.positionOf(id));
    const moves = path.map(({ move }) => move);
    const way: string[] = [];
    for (const code of codes.slice(0, step)) {
      const move = ruleset.parseCode(code);
      const last = positions.at(-1);
      if (move === null || !ruleset.isLegal(last, move)) break;
      positions.push(ruleset.play(last, move));
      moves.push(move);
      way.push(code);
    }
    return {
      node,
      way,
      position: positions.at(-1),
      move: moves.at(-1) ?? null,
      history: positions.slice(0, -1),
      name: moves.map((move) => ruleset.code(move)).join(' '),
    };
  }, [store, node, codes, step]);
  return <PlaceContext.Provider value={place}>{children}</PlaceContext.Provider>;
}

export function useBoardPlace(): BoardPlace {
  const place = useContext(PlaceContext);
  if (!place) throw new Error('outside a Desk');
  return place;
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
