import { CalledOff, type Answer, type Ask, type Question } from '@/core/ask/question';

/**
 * An engine, wherever it runs. It does one search at a time; another one asked for meanwhile waits. When `signal`
 * aborts, the search ends within milliseconds with what it has.
 */
export interface Engine {
  search(
    request: Question,
    options?: { onInfo?: (info: Answer) => void; signal?: AbortSignal },
  ): Promise<Answer>;
  close(): void;
}

/** What went wrong with an engine, in words that may be shown: no paths, no stack. */
export class EngineError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'EngineError';
  }
}

/** Puts questions to one engine until `signal` aborts; what was being searched then is answered by nothing. */
export const askOf =
  (engine: Engine, signal: AbortSignal): Ask =>
  async (question, onInfo) => {
    if (signal.aborted) throw new CalledOff();
    const answer = await engine.search(question, { signal, ...(onInfo ? { onInfo } : {}) });
    if (signal.aborted) throw new CalledOff();
    return answer;
  };
