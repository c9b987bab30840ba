import { shogiOpening } from '../openings/shogi-openings';
import { readSfen, writeSfen } from './sfen';
import { readUsi, writeUsi } from './usi';
import { writeWestern } from './western';
import { winFor } from '../game/result';
import {
  otherSide,
  type Claim,
  type Ruleset,
  type SearchRoot,
  type Side,
  type Status,
} from '../game/ruleset';
import { countDeclaration, declares24, declares27, handicapPoints } from './declaration';
import { squareName } from './board-geometry';
import { shogiDiagram } from './diagram';
import { shogiFeatures } from './features';
import { HANDICAPS, handicapOf, SHOGI_START } from './handicaps';
import { nameOfLetter, writeJapanese } from './japanese';
import { readShogiText } from './read-text';
import { NULL_MOVE, targetOf } from '../game/move';
import { HAND_ORDER, KING, LETTERS, sideOf, typeOf, unpromoted } from './pieces';
import { shogiPhase } from './phase';
import { shogiSetup } from './setup';
import { choices } from './choices';
import type { ShogiPosition } from './position';

/** The side all of whose moves in the stretch gave check, or null; `stretch`: the positions after each move. */
function checkerOf(stretch: readonly ShogiPosition[]): Side | null {
  for (const side of [0, 1] as const) {
    const afterItsMoves = stretch.filter((position) => position.side !== side);
    if (afterItsMoves.length > 0 && afterItsMoves.every((position) => position.inCheck()))
      return side;
  }
  return null;
}

function status(position: ShogiPosition, history: readonly ShogiPosition[]): Status {
  const { side } = position;
  if (!position.hasLegalMove())
    return {
      state: 'over',
      end: position.inCheck() ? 'checkmate' : 'stalemate',
      result: winFor(otherSide(side)),
    };
  const key = position.key();
  const earlier = [...history.keys()].filter((i) => history[i]!.key() === key);
  if (earlier.length >= 3) {
    const checker = checkerOf([...history.slice(earlier.at(-3)! + 1), position]);
    return checker === null
      ? { state: 'over', end: 'repetition', result: '1/2-1/2' }
      : { state: 'over', end: 'perpetual check', result: winFor(otherSide(checker)) };
  }
  return { state: 'ongoing', claims: declarations(position, history[0] ?? position) };
}

function declarations(position: ShogiPosition, start: ShogiPosition): Claim[] {
  const count = countDeclaration(position, position.side, creditOf(start, position.side));
  const claims: Claim[] = [];
  if (declares27(count, position.side))
    claims.push({ claim: 'declaration', rule: 27, result: 'win' });
  const result = declares24(count);
  if (result !== 'none') claims.push({ claim: 'declaration', rule: 24, result });
  return claims;
}

/** Points credited to a side of a game, for a handicap that it gave. */
export const creditOf = (start: ShogiPosition, side: Side): number =>
  side === 1 && start.side === 1 && handicapOf(writeSfen(start)) !== null
    ? handicapPoints(start)
    : 0;

function searchRoot(position: ShogiPosition, history: readonly ShogiPosition[]): SearchRoot {
  const line = [...history, position];
  const indices = new Map<bigint, number[]>();
  line.forEach((earlier, index) => {
    const key = earlier.key();
    indices.set(key, [...(indices.get(key) ?? []), index]);
  });
  const repeated = [...indices.values()]
    .filter((at) => at.length >= 3)
    .map((at) => ({
      position: canonical(line[at[0]!]!),
      checker: checkerOf(line.slice(at.at(-3)! + 1)),
    }));
  return {
    position: canonical(position),
    moveCount: 0,
    repeated: repeated.sort((a, b) => (a.position < b.position ? -1 : 1)),
  };
}

const canonical = (position: ShogiPosition): string => writeSfen(position).replace(/\d+$/, '1');

export const shogi: Ruleset<ShogiPosition> = {
  kind: 'shogi',
  positionFormat: 'SFEN',
  exampleLine: ['7g7f', '3c3d', '8h2b+'],
  sides: ['black', 'white'],
  numbering: 'ply',
  startText: SHOGI_START,
  handicaps: HANDICAPS,
  handicapOf,
  start: (setup = SHOGI_START) => readSfen(setup),
  write: writeSfen,
  moves: (position) => position.legalMoves(),
  choices,
  repetitions: 4,
  quietPlies: () => null,
  isLegal: (position, move) => position.isLegal(move),
  play(position, move) {
    const next = position.clone();
    next.make(move);
    return next;
  },
  key: (position) => position.key(),
  keysAlong(from, moves) {
    const position = from.clone();
    return [
      position.key(),
      ...moves.map((move) => {
        position.make(move);
        return position.key();
      }),
    ];
  },
  side: (position) => position.side,
  inCheck: (position) => position.inCheck(),
  moveNumber: (position) => position.ply,
  status,
  searchRoot,
  code: writeUsi,
  parseCode: readUsi,
  squareNames: Array.from({ length: 81 }, (_, square) => squareName(square)),
  phase: shogiPhase,
  opening: shogiOpening,
  features: shogiFeatures,
  diagram: shogiDiagram,
  setup: shogiSetup,
  text: writeWestern,
  writings: ['western', 'japanese'],
  textIn(writing, position, move, previous) {
    if (writing === 'western' || move === NULL_MOVE) return writeWestern(position, move);
    const sign = position.side === 0 ? '☗' : '☖';
    return sign + writeJapanese(position, move, targetOf(previous));
  },
  pieceIn: (writing, letter) => (writing === 'japanese' ? nameOfLetter(letter) : letter),
  readText: (position, text, previous, among) =>
    readShogiText(shogi, position, text, previous, among),
  materialBalance(position) {
    const counts = new Array<number>(9).fill(0);
    for (const piece of position.board)
      if (piece !== 0) counts[unpromoted(typeOf(piece))]! += sideOf(piece) === 0 ? 1 : -1;
    for (const type of HAND_ORDER)
      counts[type]! += position.hands[0][type]! - position.hands[1][type]!;
    counts[KING] = 0;
    return HAND_ORDER.filter((type) => counts[type] !== 0).map((type) => ({
      piece: LETTERS[type]!,
      count: counts[type]!,
    }));
  },
};
