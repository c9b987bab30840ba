'use client';

import { useMemo } from 'react';
import { pathTo, ROOT, type NodeId } from '@/core/game/tree';
import { useDesk } from './desk-store';

const NO_WAY: readonly string[] = [];

/** What is on the board: a node of the game, or a position some moves down a line that leaves from it. */
export interface BoardPlace {
  node: NodeId;
  /** UCI or USI; empty at the node itself. */
  way: readonly string[];
  position: unknown;
  /** All earlier positions, the start first. */
  history: readonly unknown[];
  /** Equal for the same position reached by the same moves. */
  name: string;
}

export function useBoardPlace(): BoardPlace {
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const excursion = useDesk((state) => state.excursion);
  const { ruleset } = view;
  const codes = excursion?.codes ?? NO_WAY;
  const step = excursion?.step ?? 0;
  // a node's position and history never change, whatever is edited beside it
  return useMemo(() => {
    const path = pathTo(view.record.tree, node);
    const positions = [ROOT, ...path.map(({ id }) => id)].map((id) => view.positionOf(id));
    const way: string[] = [];
    for (const code of codes.slice(0, step)) {
      const move = ruleset.parseCode(code);
      const last = positions.at(-1);
      if (move === null || !ruleset.isLegal(last, move)) break;
      positions.push(ruleset.play(last, move));
      way.push(code);
    }
    const position = positions.at(-1);
    const moves = [...path.map(({ move }) => ruleset.code(move)), ...way];
    return { node, way, position, history: positions.slice(0, -1), name: moves.join(' ') };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ruleset, node, codes, step]);
}
