import type { Feature } from '../game/features';
import { otherSide, type Side } from '../game/ruleset';
import { fileOf, rankFor, rankOf } from './board-geometry';
import { castleOf } from './castles';
import { countDeclaration, totalPoints } from './declaration';
import { GOLD, HAND_ORDER, KING, LETTERS, pieceOf, SILVER, sideOf, typeOf } from './pieces';
import type { ShogiPosition } from './position';

/** How near to a king counts as near it, in king's steps. */
const NEAR = 2;

/** The structure of a shogi position in figures. */
export function shogiFeatures(position: ShogiPosition): Feature[] {
  const { board, hands, kings } = position;
  const count = (fits: (piece: number, square: number) => boolean): number =>
    board.reduce((sum, piece, square) => sum + Number(piece !== 0 && fits(piece, square)), 0);
  const isNear = (square: number, king: number): boolean =>
    king >= 0 &&
    Math.max(Math.abs(fileOf(square) - fileOf(king)), Math.abs(rankOf(square) - rankOf(king))) <=
      NEAR;
  const handText = (side: Side): string =>
    HAND_ORDER.filter((type) => hands[side][type]! > 0)
      .map((type) => `${hands[side][type]! > 1 ? hands[side][type]! : ''}${LETTERS[type]}`)
      .join(' ') || '–';
  const both = <T extends string | number>(name: string, of: (side: Side) => T): Feature => ({
    name,
    values: [of(0), of(1)],
  });
  return [
    both('points', (side) => totalPoints(position, side)),
    both('hand', handText),
    both('castle', (side) => castleOf(position, side)),
    both('promoted', (side) => count((piece) => sideOf(piece) === side && typeOf(piece) > KING)),
    both('defenders', (side) =>
      count(
        (piece, square) =>
          (piece === pieceOf(GOLD, side) || piece === pieceOf(SILVER, side)) &&
          isNear(square, kings[side]),
      ),
    ),
    both('attackers', (side) =>
      count(
        (piece, square) =>
          sideOf(piece) === side &&
          typeOf(piece) !== KING &&
          isNear(square, kings[otherSide(side)]),
      ),
    ),
    both('kingAdvance', (side) => (kings[side] < 0 ? 0 : 9 - rankFor(kings[side], side))),
    both('entering', (side) => countDeclaration(position, side).points),
  ];
}
