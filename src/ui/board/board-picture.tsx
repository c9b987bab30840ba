'use client';

import type { ReactNode } from 'react';
import type { Square } from '@/core/game/move';
import type { GameKind } from '@/core/game/ruleset';
import { ArrowShape } from './arrow';
import { CELL } from './board-overlay';
import type { BoardInput, BoardLabel, Source } from './board-props';
import { useCarry } from './use-carry';

/** A board in two layers, so that a step paints what moves and not the squares under it. */
export function BoardPicture({
  kind,
  viewBox,
  label,
  ground,
  input,
  corner,
  pieceFrom,
  children,
}: {
  kind: GameKind;
  viewBox: string;
  label: BoardLabel;
  /** What a move never changes. */
  ground: ReactNode;
  input: BoardInput | undefined;
  corner(square: Square): readonly [number, number];
  /** The piece that is taken from there, in a cell of its own. */
  pieceFrom(source: Source): ReactNode;
  children: ReactNode;
}) {
  const { carried, handlers } = useCarry(input);
  const half = CELL / 2;
  const name =
    typeof label === 'string' ? { 'aria-label': label } : { 'aria-labelledby': label.id };
  return (
    <div className="board" role="img" {...name} data-board={kind}>
      <svg className="board-ground" viewBox={viewBox} aria-hidden="true">
        {ground}
      </svg>
      <svg
        className="board-pieces"
        viewBox={viewBox}
        aria-hidden="true"
        {...(input ? handlers : {})}
      >
        {children}
        {carried && input?.carries === 'arrow' && 'square' in carried.source && (
          <ArrowShape
            from={[
              corner(carried.source.square)[0] + half,
              corner(carried.source.square)[1] + half,
            ]}
            to={carried.at}
            colour="var(--soft)"
          />
        )}
        {carried && input?.carries === 'piece' && (
          <g
            className="carried"
            transform={`translate(${carried.at[0] - half} ${carried.at[1] - half})`}
          >
            {pieceFrom(carried.source)}
          </g>
        )}
      </svg>
    </div>
  );
}
