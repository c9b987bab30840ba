'use client';

import type { NodeId } from '@/core/game/tree';
import { moveText, numberText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useDesk, useDeskStore } from './desk-store';

/** A move of the main line; leads to the position before it. */
export function MoveLink({ ply }: { ply: number }) {
  const id = useDesk(({ view }) => (ply <= view.line.length ? view.nodeAtPly(ply) : null));
  return id !== null && <NodeLink id={id} />;
}

/** A move; leads to the position before it, or behind it. */
export function NodeLink({ id, isBehind = false }: { id: NodeId; isBehind?: boolean }) {
  const store = useDeskStore();
  const notation = useShogiNotation();
  const { view } = store.getState();
  const { parent, move } = view.node(id);
  const before = view.positionOf(parent!);
  const text = moveText(view.ruleset, before, move, view.moveTo(parent!), notation);
  return (
    <button
      type="button"
      className="move-link"
      onClick={() => store.getState().goTo(isBehind ? id : parent!)}
    >
      {numberText(view.ruleset, before)} {text}
    </button>
  );
}
