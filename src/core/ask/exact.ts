import { chess } from '../chess/ruleset';
import type { ChessPosition } from '../chess/position';
import { before, menOn, movesOf, readValue, type Look, type ValuedMove } from '../endings/exact';
import { forcedValue } from '../endings/forced';
import type { Side } from '../game/ruleset';
import { otherSide } from '../game/ruleset';
import { cpScore, mateScore, type Score } from '../game/score';
import { EXACT_DEPTH } from '../review/evaluation';
import type { Answer, AnswerLine, Ask, Question } from './question';

/** Moves of the best line that are told; of others, the first alone. */
const BEST_LINE = 6;

/** Men on a board, kings among them, from which a line may lead to tables. */
const MOST_FORCED_MEN = 8;
/** Positions that are looked at to find a line to what tables know: some hundredths of a second. */
const MOST_FORCED = 1000;

/**
 * What tables of endings answer; null where they don't know, or where it is asked how far a person would see.
 * @param forced what is certain of a position that they don't know
 */
export function exactAnswer(
  { kind, root, lines, only, plain, checks }: Question,
  look: Look,
  forced = forcedAnswer,
): Answer | null {
  if (kind !== 'chess' || plain || checks) return null;
  const position = chess.start(root.position);
  const valued = movesOf(position, look);
  if (!valued) return lines === 1 && !only ? forced(position, look) : null;
  const among = only
    ? valued.filter(({ move }) => only.includes(chess.code(move)))
    : valued.slice(0, lines);
  return answerOf(
    among.map((one, place): AnswerLine => ({
      score: scoreOf(before(one.behind), position.side),
      moves: [chess.code(one.move), ...(place === 0 ? repliesTo(position, one, look) : [])],
    })),
  );
}

const answerOf = (lines: readonly AnswerLine[]): Answer => ({
  depth: EXACT_DEPTH,
  nodes: 0,
  milliseconds: 0,
  lines,
});

/** Of a position that tables don't know, where every line that matters leads to one that they do. */
function forcedAnswer(position: ChessPosition, look: Look): Answer | null {
  // men are captured one by one
  if (menOn(position) > MOST_FORCED_MEN) return null;
  const forced = forcedValue(position, look, MOST_FORCED);
  if (!forced || forced.line.length === 0) return null;
  return answerOf([
    { score: scoreOf(forced.value, position.side), moves: forced.line.map(chess.code) },
  ]);
}

/** Answers from tables of endings what they know, and asks the rest. */
export const exactFirst = (ask: Ask, look: Look): Ask => {
  const exact = exactAnswers(look);
  return async (question, onDepth) => exact(question) ?? ask(question, onDepth);
};

/** What tables of endings answer, again and again: a line from a position to what they know is looked for once. */
export function exactAnswers(look: Look): (question: Question) => Answer | null {
  const known = new Map<string, Answer | null>();
  const forced: typeof forcedAnswer = (position) => {
    if (menOn(position) > MOST_FORCED_MEN) return null;
    const name = chess.write(position);
    const before = known.get(name);
    if (before !== undefined) return before;
    const answer = forcedAnswer(position, look);
    known.set(name, answer);
    return answer;
  };
  return (question) => exactAnswer(question, look, forced);
}

/** What a position is worth, from the view of side 0. @param mover whose move it is */
function scoreOf(value: number, mover: Side): Score {
  const exact = readValue(value);
  if (exact.result === 'draw') return cpScore(0);
  return mateScore(exact.plies, exact.result === 'win' ? mover : otherSide(mover));
}

function repliesTo(position: ChessPosition, { move }: ValuedMove, look: Look): string[] {
  const replies: string[] = [];
  let now = chess.play(position, move);
  while (replies.length < BEST_LINE - 1) {
    const [best] = movesOf(now, look) ?? [];
    if (!best) break;
    replies.push(chess.code(best.move));
    now = chess.play(now, best.move);
  }
  return replies;
}
