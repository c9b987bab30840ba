import { BISHOP, KING, PAWN, QUEEN, ROOK, sideOf, typeOf } from '../chess/pieces';
import type { ChessPosition } from '../chess/position';
import { chess } from '../chess/ruleset';
import { fromOf, toOf, type Move } from '../game/move';
import { otherSide, type Side } from '../game/ruleset';

/** What a position has, or lacks, for the side that has just moved. Terms of the trade; each is defined where it is worked out. */
export const PATTERNS = [
  'directOpposition',
  'distantOpposition',
  'keySquare',
  'square',
  'rookBehind',
  'cutOff',
  'thirdRank',
  'bridge',
  'rightCorner',
  'fortress',
  'noStalemate',
] as const;
/** Those, and how moves that keep a result differ from one that does not. */
export type Pattern = (typeof PATTERNS)[number] | 'noPush' | 'push';

/**
 * What all moves that keep a result have in common, and a move that let it go has not: so it is the pattern that was missed. Empty where they have
 * nothing that has a name.
 */
export function missedPatterns(
  position: ChessPosition,
  played: Move,
  keeping: readonly Move[],
): Pattern[] {
  if (keeping.length === 0) return [];
  const mover = position.side;
  const after = chess.play(position, played);
  const behind = keeping.map((move) => chess.play(position, move));
  const missed: Pattern[] = PATTERNS.filter(
    (pattern) => !HAS[pattern](after, mover) && behind.every((one) => HAS[pattern](one, mover)),
  );
  const isPush = (move: Move): boolean => typeOf(position.board[fromOf(move)]!) === PAWN;
  if (isPush(played) && !keeping.some(isPush)) missed.push('noPush');
  const [first] = keeping;
  const isOnePawn = keeping.every((move) => isPush(move) && fromOf(move) === fromOf(first!));
  if (isOnePawn && !isPush(played)) missed.push('push');
  return missed;
}

/** How a move looks like the one that keeps a result: the king or a rook one square beside, or the other rook to the same square. */
export type Twin = 'kingBeside' | 'rookBeside' | 'otherRook';

/** How a move that let a result go looks like the only one that keeps it; null where it does not. */
export function twinOf(
  { board }: ChessPosition,
  played: Move,
  keeping: readonly Move[],
): Twin | null {
  const [only, ...more] = keeping;
  if (only === undefined || more.length > 0) return null;
  const type = typeOf(board[fromOf(only)]!);
  if (typeOf(board[fromOf(played)]!) !== type || (type !== KING && type !== ROOK)) return null;
  if (fromOf(played) !== fromOf(only)) return toOf(played) === toOf(only) ? 'otherRook' : null;
  if (distance(toOf(played), toOf(only)) !== 1) return null;
  return type === KING ? 'kingBeside' : 'rookBeside';
}

const fileOf = (square: number): number => square & 7;
const rankOf = (square: number): number => square >> 3;
const distance = (one: number, other: number): number =>
  Math.max(Math.abs(fileOf(one) - fileOf(other)), Math.abs(rankOf(one) - rankOf(other)));
/** A rank as its side counts it, 0–7. */
const rankFor = (side: Side, square: number): number =>
  side === 0 ? rankOf(square) : 7 - rankOf(square);

const squaresOf = ({ board }: ChessPosition, side: Side, type: number): number[] => {
  const squares: number[] = [];
  for (let square = 0; square < 64; square++) {
    const piece = board[square]!;
    if (piece !== 0 && typeOf(piece) === type && sideOf(piece) === side) squares.push(square);
  }
  return squares;
};

/** How many men a side has, its king among them. */
const menOf = ({ board }: ChessPosition, side: Side): number =>
  board.reduce((sum, piece) => sum + Number(piece !== 0 && sideOf(piece) === side), 0);

/** Whether a side has nothing but its king and pawns. */
const hasPawnsAlone = ({ board }: ChessPosition, side: Side): boolean =>
  board.every((piece) => {
    if (piece === 0 || sideOf(piece) !== side) return true;
    return typeOf(piece) === KING || typeOf(piece) === PAWN;
  });

/** Pawns of a side that no other pawn can stop or take. */
function passedPawns(position: ChessPosition, side: Side): number[] {
  const others = squaresOf(position, otherSide(side), PAWN);
  return squaresOf(position, side, PAWN).filter(
    (pawn) =>
      !others.some(
        (other) =>
          Math.abs(fileOf(other) - fileOf(pawn)) <= 1 && rankFor(side, other) > rankFor(side, pawn),
      ),
  );
}

/** Moves that a pawn needs to become a queen: two steps at first. */
const movesLeft = (side: Side, pawn: number): number => Math.min(5, 7 - rankFor(side, pawn));
const queening = (side: Side, pawn: number): number => (side === 0 ? 56 : 0) + fileOf(pawn);

/** Whether the kings stand on one file or rank, so far from each other, with the other side to move. */
const isOpposed = ({ kings }: ChessPosition, distances: readonly number[]): boolean =>
  (fileOf(kings[0]) === fileOf(kings[1]) || rankOf(kings[0]) === rankOf(kings[1])) &&
  distances.includes(distance(kings[0], kings[1]));

const HAS: Record<(typeof PATTERNS)[number], (position: ChessPosition, mover: Side) => boolean> = {
  /** One square between the kings, the other side to move. */
  directOpposition: (position) => isOpposed(position, [2]),
  /** Three or five squares between them. */
  distantOpposition: (position) => isOpposed(position, [4, 6]),
  /** The king stands where it leads a pawn of its own home against a bare king: three squares two ranks before it, from the fifth rank on also one rank before it; never a rook's pawn. */
  keySquare: (position, mover) => {
    const king = position.kings[mover];
    return squaresOf(position, mover, PAWN).some((pawn) => {
      const file = fileOf(pawn);
      if (file === 0 || file === 7) return false;
      const ahead = rankFor(mover, king) - rankFor(mover, pawn);
      const isNear = Math.abs(fileOf(king) - file) <= 1;
      return isNear && (ahead === 2 || (ahead === 1 && rankFor(mover, pawn) >= 4));
    });
  },
  /** The king is in the square of every pawn that runs alone: no farther from where it would become a queen than the pawn has moves. */
  square: (position, mover) => {
    const side = otherSide(mover);
    const runners = passedPawns(position, side);
    if (runners.length === 0 || !hasPawnsAlone(position, side)) return false;
    return runners.every(
      (pawn) => distance(position.kings[mover], queening(side, pawn)) <= movesLeft(side, pawn),
    );
  },
  /** A rook stands behind a passed pawn, whosever it is. */
  rookBehind: (position, mover) =>
    ([0, 1] as const).some((side) =>
      passedPawns(position, side).some((pawn) =>
        squaresOf(position, mover, ROOK).some(
          (rook) => fileOf(rook) === fileOf(pawn) && rankFor(side, rook) < rankFor(side, pawn),
        ),
      ),
    ),
  /** A rook keeps the other king on its side of a file or rank, off one's own pawns. */
  cutOff: (position, mover) => {
    const king = position.kings[otherSide(mover)];
    const pawns = squaresOf(position, mover, PAWN);
    if (pawns.length === 0) return false;
    return squaresOf(position, mover, ROOK).some((rook) =>
      [fileOf, (square: number) => rankFor(mover, square)].some((of) =>
        pawns.every(
          (pawn) => (of(rook) - of(king)) * (of(pawn) - of(rook)) >= 0 && of(rook) !== of(king),
        ),
      ),
    );
  },
  /** A rook holds one's own third rank before the other side's king and pawns have come to it. */
  thirdRank: (position, mover) => {
    const side = otherSide(mover);
    const pawns = squaresOf(position, side, PAWN);
    if (pawns.length === 0) return false;
    return (
      squaresOf(position, mover, ROOK).some((rook) => rankFor(mover, rook) === 2) &&
      [position.kings[side], ...pawns].every((square) => rankFor(mover, square) > 2)
    );
  },
  /** A rook on one's own fourth rank, with the king before its pawn on the seventh: it can stand between against checks from behind. */
  bridge: (position, mover) =>
    squaresOf(position, mover, ROOK).some((rook) => rankFor(mover, rook) === 3) &&
    squaresOf(position, mover, PAWN).some(
      (pawn) => rankFor(mover, pawn) === 6 && position.kings[mover] === queening(mover, pawn),
    ),
  /** The king is nearer to the corner that the other side's bishop does not guard than their king, where nothing but rook's pawns is left to them. */
  rightCorner: (position, mover) => {
    const side = otherSide(mover);
    const pawns = squaresOf(position, side, PAWN);
    const [bishop, ...more] = squaresOf(position, side, BISHOP);
    const [pawn] = pawns;
    if (bishop === undefined || pawn === undefined || more.length > 0) return false;
    const isRookPawn = fileOf(pawn) === 0 || fileOf(pawn) === 7;
    if (!isRookPawn || pawns.some((one) => fileOf(one) !== fileOf(pawn))) return false;
    const corner = queening(side, pawn);
    const colour = (square: number): number => (fileOf(square) + rankOf(square)) % 2;
    return (
      colour(corner) !== colour(bishop) &&
      distance(position.kings[mover], corner) < distance(position.kings[side], corner)
    );
  },
  /** Against a queen alone, a bishop's or rook's pawn on the seventh rank with the king beside it on the side of the corner, where taking it would be stalemate, or before it. */
  fortress: (position, mover) => {
    const side = otherSide(mover);
    const isQueenAlone =
      squaresOf(position, side, QUEEN).length === 1 && menOf(position, side) === 2;
    const [pawn, ...more] = squaresOf(position, mover, PAWN);
    if (!isQueenAlone || pawn === undefined || more.length > 0 || menOf(position, mover) !== 2)
      return false;
    const file = fileOf(pawn);
    if (rankFor(mover, pawn) !== 6 || ![0, 2, 5, 7].includes(file)) return false;
    const corner = queening(mover, pawn) - file + (file < 4 ? 0 : 7);
    return distance(position.kings[mover], corner) <= 1;
  },
  /** The other side can move, or is in check. */
  noStalemate: (position) => chess.moves(position).length > 0 || chess.inCheck(position),
};
