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

/** How many of the far ranks are the camp that a side enters. */
const CAMP = 3;

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

/** Counts for a side. `handicap`: points credited to it for a handicap that it gave. */
export function countDeclaration(
  position: ShogiPosition,
  side = position.side,
  handicap = 0,
): DeclarationCount {
  let piecesInCamp = 0;
  let points = handPoints(position, side) + handicap;
  position.board.forEach((piece, square) => {
    if (piece === 0 || sideOf(piece) !== side || rankFor(square, side) > CAMP) return;
    const type = typeOf(piece);
    if (type === KING) return;
    piecesInCamp++;
    points += pointsOf(type);
  });
  const king = position.kings[side];
  return {
    kingInCamp: king >= 0 && rankFor(king, side) <= CAMP,
    piecesInCamp,
    points,
    inCheck: position.isInCheck(side),
  };
}

/** Own pieces that a declaration needs in the camp, the king left out. */
export const PIECES_NEEDED = 10;

const mayDeclare = ({ kingInCamp, piecesInCamp, inCheck }: DeclarationCount): boolean =>
  kingInCamp && piecesInCamp >= PIECES_NEEDED && !inCheck;

/** Points that each rule asks for: of 24 to draw and to win, of 27 to win as Black and as White. */
const POINTS = { draw24: 24, win24: 31, win27: [28, 27] } as const;

/** The 27-point rule: Black wins with 28 points, White with 27. */
export const declares27 = (count: DeclarationCount, side: Side): boolean =>
  mayDeclare(count) && count.points >= POINTS.win27[side];

/** The 24-point rule: 31 points win, 24 to 30 draw. */
export function declares24(count: DeclarationCount): 'win' | 'draw' | 'none' {
  if (!mayDeclare(count) || count.points < POINTS.draw24) return 'none';
  return count.points >= POINTS.win24 ? 'win' : 'draw';
}

/** What a rule of impasse still asks of a side, by {@link PIECES_NEEDED} and its points. */
export interface ImpasseNeed {
  rule: 24 | 27;
  result: 'win' | 'draw';
  /** Asked for in the camp and in hand together. */
  points: number;
  /** Of those, that the side does not count yet. */
  missing: number;
  /** Of those, that not even all its pieces hold: only captures bring them. */
  toCapture: number;
}

/** How near a side is to an impasse that it may declare. */
export interface ImpasseStand extends DeclarationCount {
  /** Ranks that the king has to go; null without a king. */
  kingRanks: number | null;
  /** Pieces that are still to be brought into the camp. */
  piecesMissing: number;
  /** Points of all its pieces, wherever they stand, and of its handicap. */
  total: number;
  needs: ImpasseNeed[];
}

/** How near a side is to an impasse, by both rules in use. `handicap`: points credited to it for a handicap that it gave. */
export function impasseOf(position: ShogiPosition, side: Side, handicap = 0): ImpasseStand {
  const count = countDeclaration(position, side, handicap);
  const king = position.kings[side];
  const total = totalPoints(position, side) + handicap;
  const need = (rule: 24 | 27, result: 'win' | 'draw', points: number): ImpasseNeed => ({
    rule,
    result,
    points,
    missing: Math.max(0, points - count.points),
    toCapture: Math.max(0, points - total),
  });
  return {
    ...count,
    kingRanks: king < 0 ? null : Math.max(0, rankFor(king, side) - CAMP),
    piecesMissing: Math.max(0, PIECES_NEEDED - count.piecesInCamp),
    total,
    needs: [
      need(24, 'draw', POINTS.draw24),
      need(24, 'win', POINTS.win24),
      need(27, 'win', POINTS.win27[side]),
    ],
  };
}
