import type { Answer, Ask, Question } from '@/core/ask/question';
import { askOf, type Engine } from '@/engine/contract';

/** What is waited for, the most urgent first: one position, one game, or many of them. */
const URGENCIES = ['position', 'game', 'batch'] as const;
export type Urgency = (typeof URGENCIES)[number];

/** A fixed number of engines shared by all jobs; the most urgent is served first, of those alike who asked first. */
export class EnginePool {
  private readonly idle: Engine[];
  private readonly waiting: Record<Urgency, ((engine: Engine) => void)[]> = {
    position: [],
    game: [],
    batch: [],
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
      const wanted = URGENCIES.find((urgency) => this.waiting[urgency].length > 0);
      const next = wanted && this.waiting[wanted].shift();
      if (next) next(engine);
      else this.idle.push(engine);
    }
  }

  close(): void {
    for (const engine of this.engines) engine.close();
  }
}
