import type { Answer, Ask, Question } from '@/core/ask/question';
import { askOf, type Engine } from '@/engine/contract';

/** Who asks: a person who waits for the answer goes before what runs in the background. */
export type Urgency = 'asked' | 'background';

/** A fixed number of engines shared by all jobs; who asks first is served first, urgent ones before all others. */
export class EnginePool {
  private readonly idle: Engine[];
  private readonly waiting: Record<Urgency, ((engine: Engine) => void)[]> = {
    asked: [],
    background: [],
  };
  private busyMilliseconds = 0;

  constructor(private readonly engines: readonly Engine[]) {
    this.idle = [...engines];
  }

  get size(): number {
    return this.engines.length;
  }

  /** Milliseconds that engines have spent searching, all together. */
  get busy(): number {
    return this.busyMilliseconds;
  }

  /** What puts questions to whichever engine is free, until `signal` aborts. */
  askOf(signal: AbortSignal, urgency: Urgency): Ask {
    return (question, onDepth) => this.search(question, signal, urgency, onDepth);
  }

  private async search(
    question: Question,
    signal: AbortSignal,
    urgency: Urgency,
    onDepth?: (answer: Answer) => void,
  ): Promise<Answer> {
    const engine =
      this.idle.pop() ?? (await new Promise<Engine>((take) => this.waiting[urgency].push(take)));
    try {
      const answer = await askOf(engine, signal)(question, onDepth);
      this.busyMilliseconds += answer.milliseconds;
      return answer;
    } finally {
      const next = this.waiting.asked.shift() ?? this.waiting.background.shift();
      if (next) next(engine);
      else this.idle.push(engine);
    }
  }

  close(): void {
    for (const engine of this.engines) engine.close();
  }
}
