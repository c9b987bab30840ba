import { PositionError } from '@/core/game/ruleset';
import { splitMix64 } from '@/core/game/random-bits';
import {
  canPromote,
  GOLD,
  KING,
  PAWN,
  pieceOf,
  PROMOTED,
  SET_COUNTS,
  sideOf,
  typeOf,
  unpromoted,
} from '@/core/shogi/pieces';
import { ShogiPosition } from '@/core/shogi/position';
import { readSfen, writeSfen } from '@/core/shogi/sfen';
import { finish, searchMate } from '@/engine/mate-search';
import type { MateProver } from '@/engine/mate-prover';

/** Where problems are set: files 1 to 5, ranks 1 to 5, in the corner of the king that is mated. */
const SIZE = 5;
/** What is not on the board or in the attacker's hand is the defender's. */
const DEFENDER = 1;
/** Plies that one change may add. */
const STEP = 4;
/** Effort for a problem that is tried, in positions. */
const EFFORT = 20_000;
/** Changes that may lead nowhere before all is begun anew. */
const PATIENCE = 1500;

/**
 * Composes a mate of so many plies with one first move: a random mate of one ply is changed, a piece moved, added or sacrificed
 * before it, as long as that makes it longer. The same seed composes the same.
 */
export function composeMate(prover: MateProver, plies: number, seed: bigint): string {
  const next = splitMix64(seed);
  const below = (count: number): number => Number(next() % BigInt(count));
  for (;;) {
    let best = randomPosition(below);
    let length = 0;
    for (let idle = 0; idle < PATIENCE; idle++) {
      const changed = changedPosition(best, below);
      const found =
        changed &&
        lengthOf(
          prover,
          changed,
          Math.max(1, length),
          Math.min(plies, length + (length === 0 ? 3 : STEP)),
        );
      if (!found) continue;
      if (found > length) idle = 0;
      best = changed;
      length = found;
      if (length === plies && isUnique(prover, best, plies)) return writeSfen(best);
    }
  }
}

/** Plies of the mate that a position holds, if it is one of at least `least` and at most `most` plies. */
function lengthOf(
  prover: MateProver,
  position: ShogiPosition,
  least: number,
  most: number,
): number | null {
  const sfen = writeSfen(position);
  try {
    readSfen(sfen);
  } catch (error) {
    if (error instanceof PositionError) return null;
    throw error;
  }
  prover.setUp(sfen);
  if (least > 1 && prover.prove(least - 2, EFFORT) !== 'none') return null;
  if (prover.prove(most, EFFORT) !== 'mate') return null;
  let plies = prover.knownMate(true);
  while (plies > least) {
    const shorter = prover.prove(plies - 2, EFFORT);
    if (shorter === 'open') return null;
    if (shorter === 'none') break;
    plies = prover.knownMate(true);
  }
  return plies;
}

/** Whether one move alone begins the mate of a position. */
function isUnique(prover: MateProver, position: ShogiPosition, plies: number): boolean {
  const question = { position: writeSfen(position), plies, nodes: Infinity };
  const { first, undecided } = finish(searchMate(prover, question));
  return first.length === 1 && undecided === 0;
}

type Below = (count: number) => number;

const squareIn = (below: Below): number => below(SIZE) * 9 + below(SIZE);

/** The defender's hand: all that is nowhere else. */
function settled(position: ShogiPosition): ShogiPosition | null {
  const counts = [...SET_COUNTS] as number[];
  for (const piece of position.board) if (piece !== 0) counts[unpromoted(typeOf(piece))]!--;
  for (let type = PAWN; type <= GOLD; type++) {
    const left = counts[type]! - position.hands[0][type]!;
    if (left < 0) return null;
    position.hands[DEFENDER][type] = left;
  }
  return position.settle();
}

function randomPosition(below: Below): ShogiPosition {
  for (;;) {
    const position = new ShogiPosition();
    position.board[squareIn(below)] = pieceOf(KING, DEFENDER);
    for (let count = 3 + below(4); count > 0; count--) putPiece(position, below);
    const ready = settled(position);
    if (ready?.kings[DEFENDER] !== -1 && ready) return ready;
  }
}

function putPiece({ board, hands }: ShogiPosition, below: Below): void {
  const type = PAWN + below(GOLD);
  const square = squareIn(below);
  const place = below(3);
  if (place === 0) hands[0][type]!++;
  else if (board[square] === 0) {
    const promotes = canPromote(type) && below(3) === 0 ? PROMOTED : 0;
    board[square] = pieceOf(type + promotes, place === 1 ? 0 : DEFENDER);
  }
}

/** The position with something changed; null where that makes none. */
function changedPosition(from: ShogiPosition, below: Below): ShogiPosition | null {
  const position = from.clone();
  const { board, hands } = position;
  const king = from.kings[DEFENDER];
  const to = squareIn(below);
  const type = PAWN + below(GOLD);
  switch (below(5)) {
    case 0: {
      // the king took a piece dropped where it stands now
      if (board[to] !== 0 || hands[DEFENDER][type] === 0) return null;
      board[to] = board[king]!;
      board[king] = 0;
      hands[0][type]!++;
      break;
    }
    case 1: {
      const at = squareIn(below);
      if (board[at] === 0 || board[to] !== 0) return null;
      board[to] = board[at]!;
      board[at] = 0;
      break;
    }
    case 2: {
      if (board[to] === 0 || typeOf(board[to]!) === KING) return null;
      board[to] = 0;
      break;
    }
    case 3:
      if (hands[0][type] === 0) return null;
      hands[0][type]!--;
      break;
    default:
      putPiece(position, below);
  }
  const ready = settled(position);
  return ready &&
    ready.kings[DEFENDER] >= 0 &&
    ready.board.some((piece) => piece !== 0 && sideOf(piece) === 0)
    ? ready
    : null;
}
