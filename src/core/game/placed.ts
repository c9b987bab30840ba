import type { Ruleset, Side, Position } from './ruleset';

/** Pieces of one kind that a side has: the squares that they stand on, and how many are held in hand. */
export interface Placed {
  /** The piece's letter as in FEN or SFEN, in capitals. */
  piece: string;
  squares: readonly string[];
  held: number;
}

/** What a side has, strongest first; kinds of which it has none are left out. */
export function placedBy(ruleset: Ruleset, position: Position, side: Side): Placed[] {
  const { setup, squareNames } = ruleset;
  const kinds = setup.pieces.length / 2;
  const standing = new Map<number, string[]>(
    setup.pieces.slice(side * kinds, (side + 1) * kinds).map((piece) => [piece, []]),
  );
  squareNames.forEach((name, square) => standing.get(setup.pieceAt(position, square))?.push(name));
  const held = new Map(
    setup.handTypes.map((type) => [setup.letter(type), setup.held(position, side, type)]),
  );
  return [...standing]
    .map(([code, squares]) => {
      const piece = setup.letter(code).toUpperCase();
      return { piece, squares, held: held.get(piece) ?? 0 };
    })
    .filter((placed) => placed.squares.length + placed.held > 0);
}
