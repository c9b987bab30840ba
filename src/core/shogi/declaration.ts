import type { Side } from '../game/ruleset';
import { rankFor } from './board-geometry';
import { BISHOP, GOLD, KING, PAWN, ROOK, sideOf, typeOf, unpromoted } from './pieces';
import type { ShogiPosition } from './position';

/** What counts towards an impasse declared by the side to move. */
export interface DeclarationCount {
  kingInCamp: boolean;
  /** Own pieces in the far three ranks, the king left out. */
  piecesInCamp: number;
  /** Points of those pieces and of the hand: 5 for rook and bishop, 1 for others; handicap points added. */
  points: number;
  inCheck: boolean;
}

/** Points of all pieces of a full set, both sides together. */
const SET_POINTS = 54;

const pointsOf = (type: number): number => {
  const base = unpromoted(type);
  return base === KING ? 0 : base === ROOK || base === BISHOP ? 5 : 1;
};

function handPoints(position: ShogiPosition, side: Side): number {
  let points = 0;
  for (let type = PAWN; type <= GOLD; type++)
    points += position.hands[side][type]! * pointsOf(type);
  return points;
}

/** Points of a side on the whole board and in hand, as counted when both agree to an impasse. */
export function totalPoints(position: ShogiPosition, side: Side): number {
  let points = handPoints(position, side);
  for (const piece of position.board)
    if (piece !== 0 && sideOf(piece) === side) points += pointsOf(typeOf(piece));
  return points;
}

/** Points that the giver of a handicap is credited with: those of the pieces left off at the start. */
export const handicapPoints = (start: ShogiPosition): number =>
  SET_POINTS - totalPoints(start, 0) - totalPoints(start, 1);

/** Counts for the side to move. `handicap`: points credited to it for a handicap that it gave. */
export function countDeclaration(position: ShogiPosition, handicap = 0): DeclarationCount {
  const { side } = position;
  let piecesInCamp = 0;
  let points = handPoints(position, side) + handicap;
  position.board.forEach((piece, square) => {
    if (piece === 0 || sideOf(piece) !== side || rankFor(square, side) > 3) return;
    const type = typeOf(piece);
    if (type === KING) return;
    piecesInCamp++;
    points += pointsOf(type);
  });
  const king = position.kings[side];
  return {
    kingInCamp: king >= 0 && rankFor(king, side) <= 3,
    piecesInCamp,
    points,
    inCheck: position.inCheck(),
  };
}

const mayDeclare = ({ kingInCamp, piecesInCamp, inCheck }: DeclarationCount): boolean =>
  kingInCamp && piecesInCamp >= 10 && !inCheck;

/** The 27-point rule: Black wins with 28 points, White with 27. */
export const declares27 = (count: DeclarationCount, side: Side): boolean =>
  mayDeclare(count) && count.points >= (side === 0 ? 28 : 27);

/** The 24-point rule: 31 points win, 24 to 30 draw. */
export function declares24(count: DeclarationCount): 'win' | 'draw' | 'none' {
  if (!mayDeclare(count) || count.points < 24) return 'none';
  return count.points >= 31 ? 'win' : 'draw';
}
