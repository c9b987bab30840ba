import { NULL_MOVE, fromOf, type Square } from '../game/move';
import type { Feature } from '../game/features';
import { otherSide, type Side } from '../game/ruleset';
import { fileOf, PAWN_ATTACKS, rankOf } from './board-geometry';
import { BISHOP, KNIGHT, PAWN, pieceOf, QUEEN, ROOK, typeOf } from './pieces';
import type { ChessPosition } from './position';

const VALUES: Record<number, number> = {
  [PAWN]: 1,
  [KNIGHT]: 3,
  [BISHOP]: 3,
  [ROOK]: 5,
  [QUEEN]: 9,
};

/** What the definitions of the pawn terms rest on: where each side's pawns stand. */
class Pawns {
  readonly of: readonly [readonly Square[], readonly Square[]];

  constructor({ board }: ChessPosition) {
    const squares = (side: Side): Square[] =>
      [...board.keys()].filter((square) => board[square] === pieceOf(PAWN, side));
    this.of = [squares(0), squares(1)];
  }

  onFile(side: Side, file: number): readonly Square[] {
    return this.of[side].filter((square) => fileOf(square) === file);
  }

  /** Steps that a pawn of the side has made towards its last rank. */
  static advance(side: Side, square: Square): number {
    return side === 0 ? rankOf(square) : 7 - rankOf(square);
  }

  /** No pawn of the other side stands before it on its own or the files beside it. */
  isPassed(side: Side, square: Square): boolean {
    return this.of[otherSide(side)].every(
      (other) =>
        Math.abs(fileOf(other) - fileOf(square)) > 1 ||
        Pawns.advance(side, other) <= Pawns.advance(side, square),
    );
  }

  /** No own pawn on the files beside it. */
  isIsolated(side: Side, square: Square): boolean {
    return this.of[side].every((own) => Math.abs(fileOf(own) - fileOf(square)) !== 1);
  }

  /** Own pawns beside it are all further on, and the square before it is held by a pawn of the other side. */
  isBackward(side: Side, square: Square): boolean {
    const neighbours = this.of[side].filter((own) => Math.abs(fileOf(own) - fileOf(square)) === 1);
    if (neighbours.length === 0) return false;
    const step = square + (side === 0 ? 8 : -8);
    return (
      neighbours.every((own) => Pawns.advance(side, own) > Pawns.advance(side, square)) &&
      this.holds(otherSide(side), step)
    );
  }

  /** Whether a pawn of the side attacks the square. */
  holds(side: Side, square: Square): boolean {
    return this.of[side].some((own) => PAWN_ATTACKS[side]![own]!.includes(square));
  }

  /** Whether a pawn of the side can ever come to attack the square. */
  canHold(side: Side, square: Square): boolean {
    return this.of[side].some(
      (own) =>
        Math.abs(fileOf(own) - fileOf(square)) === 1 &&
        Pawns.advance(side, own) < Pawns.advance(side, square),
    );
  }
}

/** The structure of a chess position in figures. */
export function chessFeatures(position: ChessPosition): Feature[] {
  const { board, kings } = position;
  const pawns = new Pawns(position);
  const squaresOf = (type: number, side: Side): Square[] =>
    [...board.keys()].filter((square) => board[square] === pieceOf(type, side));
  const count = (side: Side, fits: (square: Square) => boolean): number =>
    pawns.of[side].filter(fits).length;
  const mobility = (side: Side): number => {
    const view = position.side === side ? position : passed(position);
    return view
      ? view.legalMoves().filter((move) => typeOf(board[fromOf(move)]!) !== PAWN).length
      : 0;
  };
  const both = <T extends string | number>(name: string, of: (side: Side) => T): Feature => ({
    name,
    values: [of(0), of(1)],
  });
  return [
    both('material', (side) =>
      [PAWN, KNIGHT, BISHOP, ROOK, QUEEN].reduce(
        (sum, type) => sum + squaresOf(type, side).length * VALUES[type]!,
        0,
      ),
    ),
    both('bishopPair', (side) => (squaresOf(BISHOP, side).length >= 2 ? 1 : 0)),
    both('passedPawns', (side) => count(side, (square) => pawns.isPassed(side, square))),
    both('isolatedPawns', (side) => count(side, (square) => pawns.isIsolated(side, square))),
    both('doubledPawns', (side) =>
      Array.from({ length: 8 }, (_, file) =>
        Math.max(0, pawns.onFile(side, file).length - 1),
      ).reduce((sum, more) => sum + more, 0),
    ),
    both('backwardPawns', (side) => count(side, (square) => pawns.isBackward(side, square))),
    both(
      'rooksOnOpenFiles',
      (side) =>
        squaresOf(ROOK, side).filter((square) =>
          ([0, 1] as const).every((of) => pawns.onFile(of, fileOf(square)).length === 0),
        ).length,
    ),
    both('shelter', (side) =>
      count(
        side,
        (square) =>
          Math.abs(fileOf(square) - fileOf(kings[side]!)) <= 1 &&
          [1, 2].includes(Pawns.advance(side, square) - Pawns.advance(side, kings[side]!)),
      ),
    ),
    both('mobility', mobility),
    both(
      'outposts',
      (side) =>
        [KNIGHT, BISHOP]
          .flatMap((type) => squaresOf(type, side))
          .filter(
            (square) =>
              Pawns.advance(side, square) >= 3 &&
              pawns.holds(side, square) &&
              !pawns.canHold(otherSide(side), square),
          ).length,
    ),
    both('developed', (side) => {
      const home = side === 0 ? 0 : 7;
      return [KNIGHT, BISHOP]
        .flatMap((type) => squaresOf(type, side))
        .filter((square) => rankOf(square) !== home).length;
    }),
  ];
}

/** The position with the other side to move, or null where a check has to be answered. */
function passed(position: ChessPosition): ChessPosition | null {
  if (position.inCheck()) return null;
  const next = position.clone();
  next.make(NULL_MOVE);
  return next;
}
