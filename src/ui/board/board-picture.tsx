import type { ReactNode } from 'react';
import type { GameKind } from '@/core/game/ruleset';

/** A board in two layers, so that a step paints what moves and not the squares under it. */
export function BoardPicture({
  kind,
  viewBox,
  label,
  ground,
  children,
}: {
  kind: GameKind;
  viewBox: string;
  /** A sentence for those who can't see the board. */
  label: string;
  /** What a move never changes. */
  ground: ReactNode;
  children: ReactNode;
}) {
  return (
    <div className="board" role="img" aria-label={label} data-board={kind}>
      <svg className="board-ground" viewBox={viewBox} aria-hidden="true">
        {ground}
      </svg>
      <svg className="board-pieces" viewBox={viewBox} aria-hidden="true">
        {children}
      </svg>
    </div>
  );
}
