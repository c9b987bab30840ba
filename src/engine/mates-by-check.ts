import { MATE_PLIES, type MateAnswer } from '@/core/ask/mate';
import type { Answer, Question } from '@/core/ask/question';
import { otherSide } from '@/core/game/ruleset';
import { mateScore } from '@/core/game/score';
import { EXACT_DEPTH } from '@/core/review/evaluation';
import { rulesetOf } from '@/core/rulesets';
import type { MateProver } from './mate-prover';
import { searchMate } from './mate-search';

/** In shares of the nodes allowed: what finding each move of the mate may take, and what all may take together. */
const FOLLOWING = 0.1;
const MOST = 3;

/**
 * The mate that the side to move can give by check after check, or else, in check, is to suffer. Depends on nothing but the question.
 * @param shouldStop asked again and again; once it is so, what is known is the answer
 */
export function answerByChecks(
  prover: MateProver,
  { kind, root, budget: { nodes = Infinity } }: Question,
  shouldStop: () => boolean,
): Answer {
  const ruleset = rulesetOf(kind);
  const position = ruleset.start(root.position);
  const side = ruleset.side(position);
  const started = performance.now();
  prover.setRules({ quiet: false, everyDefence: false });
  const look = (plies: number): MateAnswer | null => {
    const question = { position: root.position, plies, nodes, following: nodes * FOLLOWING };
    for (const found of searchMate(prover, question)) {
      if (found.line.length > 0) return found;
      if (shouldStop() || prover.nodes > MOST * nodes) break;
    }
    return null;
  };
  const given = look(MATE_PLIES[kind]);
  const suffered = !given && ruleset.inCheck(position) ? look(MATE_PLIES[kind] - 1) : null;
  const found = given ?? suffered;
  return {
    depth: found ? EXACT_DEPTH : 0,
    nodes: prover.nodes,
    milliseconds: performance.now() - started,
    lines: found
      ? [
          {
            score: mateScore(found.mate!, given ? side : otherSide(side)),
            moves: found.line,
          },
        ]
      : [],
  };
}
