import { chess } from '../chess/ruleset';
import type { ChessPosition } from '../chess/position';
import { movesOf, readValue, type Look, type ValuedMove } from '../endings/exact';
import type { Side } from '../game/ruleset';
import { otherSide } from '../game/ruleset';
import { cpScore, mateScore, type Score } from '../game/score';
import { EXACT_DEPTH } from '../review/evaluation';
import type { Answer, AnswerLine, Ask, Question } from './question';

/** Moves of the best line that are told; of others, the first alone. */
const BEST_LINE = 6;

/** What tables of endings answer; null where they don't know, or where it is asked how far a person would see. */
export function exactAnswer(
  { kind, root, lines, only, plain }: Question,
  look: Look,
): Answer | null {
  if (kind !== 'chess' || plain) return null;
  const position = chess.start(root.position);
  const valued = movesOf(position, look);
  if (!valued) return null;
  const among = only
    ? valued.filter(({ move }) => only.includes(chess.code(move)))
    : valued.slice(0, lines);
  return {
    depth: EXACT_DEPTH,
    nodes: 0,
    milliseconds: 0,
    lines: among.map((one, place): AnswerLine => ({
      score: scoreOf(one, position.side),
      moves: [chess.code(one.move), ...(place === 0 ? repliesTo(position, one, look) : [])],
    })),
  };
}

/** Answers from tables of endings what they know, and asks the rest. */
export const exactFirst =
  (ask: Ask, look: Look): Ask =>
  async (question, onDepth) =>
    exactAnswer(question, look) ?? ask(question, onDepth);

/** What a move is worth, from the view of side 0. */
function scoreOf({ behind }: ValuedMove, mover: Side): Score {
  const exact = readValue(behind);
  if (exact.result === 'draw') return cpScore(0);
  return mateScore(exact.plies + 1, exact.result === 'loss' ? mover : otherSide(mover));
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
