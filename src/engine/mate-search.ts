import {
  MATE_PLIES,
  type LookQuestion,
  type MateAnswer,
  type MateLook,
  type MateQuestion,
} from '@/core/ask/mate';
import type { MateProver } from './mate-prover';

/** Positions after which the one who waits is given a turn. */
const TURN = 10_000;
/** Effort for each question that follows from a mate found, whose answer is nearly always known. */
const FOLLOWING = 300_000;

/** Gives what is known so far, again and again. */
type Steps<T> = Generator<MateAnswer, T, void>;

/** The shortest mate that the side to move can force, or is to suffer, with all moves that begin it; step by step, so that it can be left. */
export function* searchMate(
  prover: MateProver,
  { position, plies, nodes, following = FOLLOWING }: MateQuestion,
): Steps<MateAnswer> {
  prover.setUp(position);
  const start = prover.nodes;
  const attacks = plies % 2 === 1;
  const least = attacks ? 1 : 0;
  const answer: MateAnswer = { ...NOTHING, first: [] };
  const known = (): MateAnswer => ({ ...answer, nodes: prover.nodes - start });
  const prove = function* (within: number, most: number): Steps<Proof> {
    const until = prover.nodes + most;
    while (true) {
      const said = prover.prove(within, Math.min(TURN, until - prover.nodes));
      if (said !== 'open' || prover.nodes >= until) return said;
      yield known();
    }
  };
  /** Whether the move that was just played begins a mate in so many plies: the attacker's shortest way, the defender's longest. */
  const begins = function* (within: number): Steps<boolean | 'open'> {
    const isAttack = within % 2 === 1;
    if (within === 2) return true;
    const told = yield* prove(isAttack ? within - 1 : within - 3, following);
    return told === 'open' ? told : told === (isAttack ? 'mate' : 'none');
  };
  const left = (): number => Math.max(0, nodes - (prover.nodes - start));
  const said = yield* prove(plies, left());
  if (said !== 'mate') {
    answer.proven = said === 'none';
    answer.never = prover.isSafeForEver(attacks);
    return known();
  }
  answer.mate = prover.knownMate(attacks);
  answer.proven = answer.mate === least;
  while (!answer.proven) {
    const shorter = yield* prove(answer.mate - 2, left());
    if (shorter === 'open') break;
    if (shorter === 'mate') answer.mate = prover.knownMate(attacks);
    answer.proven = shorter === 'none' || answer.mate === least;
  }
  yield known();
  answer.line = yield* lineOf(prover, answer.mate, begins);
  yield known();
  if (answer.mate === 0) return known();
  for (const move of prover.moves(attacks)) {
    prover.play(move);
    const isOne = yield* begins(answer.mate);
    prover.takeBack();
    if (isOne === 'open') answer.undecided++;
    else if (isOne) answer.first.push(move);
  }
  return known();
}

type Proof = 'mate' | 'none' | 'open';
type Begins = (plies: number) => Steps<boolean | 'open'>;

const NOTHING: MateAnswer = {
  mate: null,
  proven: false,
  never: false,
  first: [],
  undecided: 0,
  line: [],
  nodes: 0,
};

/** The moves of a mate in so many plies, against the longest defence. */
function* lineOf(prover: MateProver, mate: number, begins: Begins): Steps<string[]> {
  const line: string[] = [];
  for (let plies = mate; plies > 0; plies--) {
    const next = yield* nextOf(prover, plies, begins);
    if (next === null) break;
    line.push(next);
    prover.play(next);
  }
  for (let at = 0; at < line.length; at++) prover.takeBack();
  return line;
}

function* nextOf(prover: MateProver, plies: number, begins: Begins): Steps<string | null> {
  const attacks = plies % 2 === 1;
  if (!attacks && prover.isMated) return null;
  let other: string | null = null;
  for (const move of prover.moves(attacks)) {
    prover.play(move);
    const isRight = yield* begins(plies);
    prover.takeBack();
    if (isRight === true) return move;
    if (!attacks) other ??= move;
  }
  return other;
}

/** Effort for each move that may hold, as a part of that for the mates themselves. */
const HOLD_SHARE = 0.05;

/**
 * Looks for the mate that the side to move can give, then for the one that it is threatened with, and for the moves that hold.
 */
export function* lookForMates(
  prover: MateProver,
  { position, passed, nodes }: LookQuestion,
): Generator<MateLook, MateLook, void> {
  const plies = MATE_PLIES[prover.kind];
  const look: MateLook = { own: NOTHING, danger: null, holds: null };
  for (const own of steps(searchMate(prover, { position, plies, nodes })))
    yield { ...look, own: (look.own = own) };
  if (look.own.mate !== null) return look;
  const question = passed
    ? { position: passed, plies, nodes }
    : { position, plies: plies - 1, nodes };
  for (const danger of steps(searchMate(prover, question)))
    yield { ...look, danger: (look.danger = danger) };
  if (!look.danger || look.danger.mate === null) return look;
  prover.setUp(position);
  const moves = prover.moves(false);
  const holding: string[] = [];
  let isProven = true;
  for (const move of moves) {
    prover.play(move);
    const said = prover.prove(plies, nodes * HOLD_SHARE);
    prover.takeBack();
    if (said !== 'mate') holding.push(move);
    isProven &&= said !== 'open';
    yield look;
  }
  return { ...look, holds: { moves: holding, of: moves.length, isProven } };
}

/** What a search gives, its last with the others. */
function* steps<T>(search: Generator<T, T, void>): Generator<T, void, void> {
  while (true) {
    const { done, value } = search.next();
    yield value;
    if (done) return;
  }
}

/** Takes all steps of a search at once. */
export function finish<T>(search: Generator<unknown, T, void>): T {
  while (true) {
    const { done, value } = search.next();
    if (done) return value;
  }
}
