import { memo } from 'react';
import { dropOf, fromOf, toOf, type Move, type Square } from '@/core/game/move';
import type { Mark } from '@/core/game/tree';
import { ArrowShape, MARK_COLOURS } from './arrow';
import type { Arrow, BoardInput } from './board-props';

/** Side of a square in the units of a board's picture. */
export const CELL = 100;

type Corner = (square: Square) => readonly [number, number];

/** The squares of the last move, under the pieces. */
export function LastMove({ move, corner }: { move: Move | null; corner: Corner }) {
  if (move === null) return null;
  const squares = dropOf(move) ? [toOf(move)] : [fromOf(move), toOf(move)];
  return squares.map((square) => (
    <rect
      key={square}
      className="straw"
      x={corner(square)[0]}
      y={corner(square)[1]}
      width={CELL}
      height={CELL}
    />
  ));
}

/** What lies over the pieces of either board: check, marks, arrows, and what a click would do. */
export function BoardOverlay({
  flipped,
  squares,
  corner,
  checked,
  marks,
  arrows,
  input,
  isOccupied,
}: {
  flipped: boolean;
  squares: readonly Square[];
  corner: Corner;
  /** The square of a king in check, or -1. */
  checked: Square;
  marks: readonly Mark[];
  arrows: readonly Arrow[];
  input: BoardInput | undefined;
  isOccupied(square: Square): boolean;
}) {
  const middle = (square: Square): [number, number] => {
    const [x, y] = corner(square);
    return [x + CELL / 2, y + CELL / 2];
  };
  const circle = (square: Square): { cx: number; cy: number } => {
    const [cx, cy] = middle(square);
    return { cx, cy };
  };
  const selected = input?.source && 'square' in input.source ? input.source.square : -1;
  return (
    <>
      {checked >= 0 && <circle className="check" {...circle(checked)} r={45} />}
      {marks.map((mark, index) =>
        mark.to === undefined ? (
          <circle
            key={index}
            className="ring"
            {...circle(mark.square)}
            r={44}
            stroke={MARK_COLOURS[mark.colour]}
          />
        ) : (
          <ArrowShape
            key={index}
            className="arrow mark"
            from={middle(mark.square)}
            to={middle(mark.to)}
            colour={MARK_COLOURS[mark.colour]}
          />
        ),
      )}
      {arrows.map(({ from, to, tone }) => (
        <ArrowShape
          key={`${from}-${to}-${tone}`}
          from={middle(from)}
          to={middle(to)}
          colour={`var(--${tone})`}
        />
      ))}
      {selected >= 0 && (
        <rect
          className="selected"
          x={corner(selected)[0] + 3}
          y={corner(selected)[1] + 3}
          width={CELL - 6}
          height={CELL - 6}
        />
      )}
      {input?.targets.map((square) => (
        <circle
          key={square}
          className="target"
          {...circle(square)}
          r={isOccupied(square) ? 46 : 15}
          fillOpacity={isOccupied(square) ? 0.35 : 1}
        />
      ))}
      {input && (
        <g
          onClick={({ target }) => {
            const name = target instanceof Element && target.getAttribute('data-square');
            if (name) input.onSquare(Number(name));
          }}
        >
          <Hits squares={squares} flipped={flipped} corner={corner} />
        </g>
      )}
    </>
  );
}

/** What takes the clicks; the same until the board is turned. */
const Hits = memo(
  function Hits({
    squares,
    corner,
  }: {
    squares: readonly Square[];
    flipped: boolean;
    corner: Corner;
  }) {
    return squares.map((square) => (
      <rect
        key={square}
        className="hit clickable"
        data-square={square}
        x={corner(square)[0]}
        y={corner(square)[1]}
        width={CELL}
        height={CELL}
      />
    ));
  },
  (before, now) => before.flipped === now.flipped,
);
