import type { Move, Square } from '../game/move';
import type { Side } from '../game/ruleset';
import { squareAt } from '../shogi/board-geometry';
import { LETTERS, pieceOf } from '../shogi/pieces';
import type { ShogiPosition } from '../shogi/position';
import type { Opening } from './opening';
import { CASTLE_SHAPES, OPENING_SHAPES } from './shogi-shapes';

/** A shape that has a name. */
export interface Shape {
  name: string;
  japanese: string;
}

/** How a game was opened, and by whom. */
export type ShogiOpening = Opening & { side: Side };

/** What must stand where, from the view of the side that plays it. */
interface Pattern extends Shape {
  squares: readonly { square: Square; piece: { type: number; isOwn: boolean } | null }[];
  hands: readonly { type: number; isOwn: boolean }[];
  /** Half moves by which it must have come about. */
  until: number;
}

/** Half moves after which a shape says no more of how a game was opened. */
const LONGEST = 30;

function readPattern(line: string): Pattern {
  const [name, japanese, places, until] = line.split('|');
  const squares: Pattern['squares'][number][] = [];
  const hands: Pattern['hands'][number][] = [];
  for (const place of places!.split(' ')) {
    const letter = place[0]!;
    const type = LETTERS.indexOf(letter.toUpperCase() as (typeof LETTERS)[number]);
    const piece = letter === '-' ? null : { type, isOwn: letter !== letter.toLowerCase() };
    if (place[1] === '*') hands.push(piece!);
    else squares.push({ square: squareAt(Number(place[1]), Number(place[2])), piece });
  }
  return {
    name: name!,
    japanese: japanese!,
    squares,
    hands,
    until: until === undefined ? LONGEST : Number(until),
  };
}

const readPatterns = (lines: string): readonly Pattern[] =>
  lines.trim().split('\n').map(readPattern);
const CASTLES = readPatterns(CASTLE_SHAPES);
const OPENINGS = readPatterns(OPENING_SHAPES);

function fits({ board, hands }: ShogiPosition, pattern: Pattern, side: Side): boolean {
  const sideOf = (isOwn: boolean): Side => (isOwn ? side : ((1 - side) as Side));
  return (
    pattern.squares.every(({ square, piece }) => {
      const there = board[side === 0 ? square : 80 - square];
      return there === (piece === null ? 0 : pieceOf(piece.type, sideOf(piece.isOwn)));
    }) && pattern.hands.every(({ type, isOwn }) => hands[sideOf(isOwn)][type]! > 0)
  );
}

const shapeOf = ({ name, japanese }: Pattern): Shape => ({ name, japanese });

/** The castle in which a side's king stands; null where it is none that has a name. */
export function castleOf(position: ShogiPosition, side: Side): Shape | null {
  const castle = CASTLES.find((pattern) => fits(position, pattern, side));
  return castle ? shapeOf(castle) : null;
}

/**
 * How a game was opened: the most special shape that either side had in its first 30 half moves, and whose it was; null where there was
 * none that has a name.
 */
export function shogiOpening(start: ShogiPosition, moves: readonly Move[]): ShogiOpening | null {
  const position = start.clone();
  let found: { place: number; side: Side } | null = null;
  for (const [index, move] of moves.slice(0, LONGEST).entries()) {
    position.make(move);
    const ply = index + 1;
    for (const side of [0, 1] as const) {
      const better = OPENINGS.slice(0, found?.place ?? OPENINGS.length);
      const place = better.findIndex(
        (pattern) => ply <= pattern.until && fits(position, pattern, side),
      );
      if (place >= 0) found = { place, side };
    }
  }
  return found && { code: '', ...shapeOf(OPENINGS[found.place]!), side: found.side };
}
