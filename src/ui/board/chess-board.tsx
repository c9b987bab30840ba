'use client';

import { memo, useId } from 'react';
import { fileOf, rankOf } from '@/core/chess/board-geometry';
import type { ChessPosition } from '@/core/chess/position';
import type { Square } from '@/core/game/move';
import { BoardOverlay, CELL, LastMove } from './board-overlay';
import { BoardPicture } from './board-picture';
import type { BoardProps } from './board-props';
import { ChessPiece } from './chess-pieces';

const SQUARES = Array.from({ length: 64 }, (_, square) => square);

const Piece = memo(function Piece({ piece, x, y }: { piece: number; x: number; y: number }) {
  return (
    <g transform={`translate(${x} ${y})`} pointerEvents="none">
      <ChessPiece piece={piece} />
    </g>
  );
});

/** Squares, coordinates and edge; dark squares are hatched as in a printed diagram. */
const Ground = memo(function Ground({ flipped }: { flipped: boolean }) {
  const hatch = useId();
  return (
    <>
      <defs>
        <pattern
          id={hatch}
          width="8.5"
          height="8.5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="8.5" height="8.5" fill="var(--hatch-ground)" />
          <line x1="0" y1="0" x2="0" y2="8.5" stroke="var(--hatch-line)" strokeWidth="2.6" />
        </pattern>
      </defs>
      <rect className="light" width="800" height="800" />
      {/* seen from either side, the same squares of the picture are dark */}
      {SQUARES.filter((square) => (fileOf(square) + rankOf(square)) % 2 === 1).map((square) => (
        <rect
          key={square}
          x={fileOf(square) * CELL}
          y={rankOf(square) * CELL}
          width={CELL}
          height={CELL}
          fill={`url(#${hatch})`}
        />
      ))}
      {Array.from({ length: 8 }, (_, index) => (
        <g key={index} className="coordinate" fontSize="17">
          <text x={5} y={19 + index * CELL}>
            {flipped ? index + 1 : 8 - index}
          </text>
          <text x={(index + 1) * CELL - 5} y={794} textAnchor="end">
            {String.fromCharCode(97 + (flipped ? 7 - index : index))}
          </text>
        </g>
      ))}
      <rect className="edge" x="-1.5" y="-1.5" width="803" height="803" strokeWidth="3" />
    </>
  );
});

/** A chess board. */
export function ChessBoard({
  position,
  flipped,
  lastMove,
  arrows = [],
  marks = [],
  label,
  input,
}: BoardProps<ChessPosition>) {
  const column = (square: Square): number => (flipped ? 7 - fileOf(square) : fileOf(square));
  const row = (square: Square): number => (flipped ? rankOf(square) : 7 - rankOf(square));
  const corner = (square: Square): [number, number] => [column(square) * CELL, row(square) * CELL];
  // on a board that is being set up a king may be missing
  const isWhole = position.kings.every((king) => king >= 0);
  const checked = isWhole && position.inCheck() ? position.kings[position.side] : -1;
  return (
    <BoardPicture
      kind="chess"
      viewBox="-3 -3 806 806"
      label={label}
      ground={<Ground flipped={flipped} />}
      input={input}
      corner={corner}
      pieceFrom={(source) =>
        'square' in source && <ChessPiece piece={position.board[source.square]!} />
      }
    >
      <LastMove move={lastMove} corner={corner} />
      {[...position.board.entries()].map(([square, piece]) =>
        piece === 0 ? null : (
          <Piece key={square} piece={piece} x={corner(square)[0]} y={corner(square)[1]} />
        ),
      )}
      <BoardOverlay
        flipped={flipped}
        squares={SQUARES}
        corner={corner}
        checked={checked}
        marks={marks}
        arrows={arrows}
        input={input}
        isOccupied={(square) => position.board[square] !== 0}
      />
    </BoardPicture>
  );
}
