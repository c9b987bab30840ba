import type { Ask } from '@/core/ask/question';
import type { MateProver } from '@/engine/mate-prover';
import { answerByChecks } from '@/engine/mates-by-check';
import type { SearchModule } from '@/engine/search-module';
import { loadMates } from './load-mates';

const UNSTOPPED = { shouldStop: () => false, now: () => performance.now() };

/** Answers in this thread, at once, as an engine does in its own. */
export function askHere(search: SearchModule): Ask {
  let prover: MateProver | null = null;
  return async (question) =>
    question.checks
      ? answerByChecks((prover ??= loadMates(question.kind)), question, UNSTOPPED.shouldStop)
      : search.search(question, UNSTOPPED);
}
