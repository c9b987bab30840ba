'use client';

import { memo } from 'react';
import type { Square } from '@/core/game/move';
import type { Side } from '@/core/game/ruleset';
import { fileOf, rankOf, SQUARES } from '@/core/shogi/board-geometry';
import { HAND_ORDER, pieceOf } from '@/core/shogi/pieces';
import type { ShogiPosition } from '@/core/shogi/position';
import { BoardOverlay, CELL, LastMove } from './board-overlay';
import { BoardPicture } from './board-picture';
import type { BoardProps } from './board-props';
import { ShogiPiece, type PieceStyle } from './shogi-piece';

/** Height of a piece stand, and its distance from the board. */
const STAND = 92;
const GAP = 10;
const PIECE = 82;
const RANKS = { kanji: '一二三四五六七八九', letters: 'abcdefghi' } as const;

const Piece = memo(function Piece({
  piece,
  x,
  y,
  flipped,
  style,
}: {
  piece: number;
  x: number;
  y: number;
  flipped: boolean;
  style: PieceStyle;
}) {
  return (
    <g transform={`translate(${x} ${y})`} pointerEvents="none">
      <ShogiPiece piece={piece} flipped={flipped} style={style} />
    </g>
  );
});

type Coordinates = keyof typeof RANKS;

/** Lines, stars, coordinates and edge. */
const Ground = memo(function Ground({
  flipped,
  coordinates,
}: {
  flipped: boolean;
  coordinates: Coordinates;
}) {
  return (
    <>
      <rect width="900" height="900" fill="var(--shogi-board)" />
      <path
        d={Array.from(
          { length: 8 },
          (_, i) => `M${(i + 1) * CELL} 0v900M0 ${(i + 1) * CELL}h900`,
        ).join('')}
        stroke="#22252d"
        strokeWidth="1.4"
        opacity="0.75"
        fill="none"
      />
      {[300, 600].flatMap((x) =>
        [300, 600].map((y) => <circle key={`${x} ${y}`} cx={x} cy={y} r={6} fill="#22252d" />),
      )}
      {Array.from({ length: 9 }, (_, index) => (
        <g key={index} className="coordinate" fontSize="22" textAnchor="middle">
          <text x={(index + 0.5) * CELL} y={-12}>
            {flipped ? index + 1 : 9 - index}
          </text>
          <text x={917} y={(index + 0.5) * CELL + 8}>
            {RANKS[coordinates][flipped ? 8 - index : index]}
          </text>
        </g>
      ))}
      <rect className="edge" x="-1.5" y="-1.5" width="903" height="903" strokeWidth="3" />
    </>
  );
});

/** A shogi board between its two piece stands. */
export function ShogiBoard({
  position,
  flipped,
  lastMove,
  arrows = [],
  marks = [],
  label,
  input,
  style,
  coordinates,
}: BoardProps<ShogiPosition> & { style: PieceStyle; coordinates: Coordinates }) {
  const column = (square: Square): number => (flipped ? fileOf(square) - 1 : 9 - fileOf(square));
  const row = (square: Square): number => (flipped ? 9 - rankOf(square) : rankOf(square) - 1);
  const corner = (square: Square): [number, number] => [column(square) * CELL, row(square) * CELL];
  const checked = position.inCheck() ? position.kings[position.side] : -1;
  const source = input?.source ?? null;
  const upper: Side = flipped ? 0 : 1;
  const hand = (side: Side) => (
    <Stand
      position={position}
      side={side}
      above={side === upper}
      flipped={flipped}
      style={style}
      selected={source && 'hand' in source && position.side === side ? source.hand : 0}
      onHand={position.side === side ? input?.onHand : undefined}
    />
  );
  return (
    <BoardPicture
      kind="shogi"
      viewBox={`-4 ${-STAND - GAP - 28} 944 ${900 + 2 * (STAND + GAP) + 32}`}
      label={label}
      ground={<Ground flipped={flipped} coordinates={coordinates} />}
      input={input}
      corner={corner}
      pieceFrom={(source) => (
        <ShogiPiece
          piece={
            'square' in source
              ? position.board[source.square]!
              : pieceOf(source.hand, position.side)
          }
          flipped={flipped}
          style={style}
        />
      )}
    >
      <LastMove move={lastMove} corner={corner} />
      {[...position.board.entries()].map(([square, piece]) =>
        piece === 0 ? null : (
          <Piece
            key={square}
            piece={piece}
            x={corner(square)[0]}
            y={corner(square)[1]}
            flipped={flipped}
            style={style}
          />
        ),
      )}
      {hand(upper)}
      {hand((1 - upper) as Side)}
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

/** A side's piece stand: each type once, with its count, strongest next to its owner's right hand. */
function Stand({
  position,
  side,
  above,
  flipped,
  style,
  selected,
  onHand,
}: {
  position: ShogiPosition;
  side: Side;
  above: boolean;
  flipped: boolean;
  style: PieceStyle;
  selected: number;
  onHand: ((type: number) => void) | undefined;
}) {
  const held = HAND_ORDER.filter((type) => position.hands[side][type]! > 0);
  const top = above ? -STAND - GAP - 24 : 900 + GAP;
  const width = 7 * 128 + 4;
  const left = above ? 0 : 900 - width;
  const placeOf = (index: number): number =>
    above ? left + 4 + index * 128 : left + width - 128 * (held.length - index);
  const listed = above ? held.toReversed() : held;
  return (
    <g data-hand={side}>
      <rect
        x={left}
        y={top}
        width={width}
        height={STAND}
        fill="var(--sheet)"
        stroke="var(--rule)"
        strokeWidth="2"
      />
      {listed.map((type, index) => {
        const count = position.hands[side][type]!;
        const x = placeOf(index);
        return (
          <g key={type}>
            <g transform={`translate(${x} ${top + 4}) scale(${PIECE / 100})`} pointerEvents="none">
              <ShogiPiece piece={pieceOf(type, side)} flipped={flipped} style={style} />
            </g>
            {count > 1 && (
              <text x={x + PIECE + 2} y={top + 62} fontSize="32" fill="var(--ink)">
                {count}
              </text>
            )}
            {selected === type && (
              <rect className="selected" x={x} y={top + 3} width={118} height={STAND - 6} />
            )}
            {onHand && (
              <rect
                className="hit clickable"
                data-hand-piece={type}
                x={x}
                y={top}
                width={124}
                height={STAND}
                onClick={() => onHand(type)}
              />
            )}
          </g>
        );
      })}
    </g>
  );
}
