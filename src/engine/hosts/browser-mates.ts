import type { LookQuestion } from '@/core/ask/mate';
import type { MatesTold } from './mates.worker';

export type { MatesTold };

/** What looks for the mates of one shogi position after another, in a worker of the page. */
export interface BrowserMates {
  /** Asks in place of what was asked before; null: nothing more. */
  ask(question: LookQuestion | null): void;
  close(): void;
}

export function startBrowserMates(tell: (told: MatesTold) => void, fail: () => void): BrowserMates {
  const worker = new Worker(new URL('./mates.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<MatesTold>) => tell(data);
  worker.onerror = fail;
  return {
    ask: (question) => worker.postMessage(question),
    close: () => worker.terminate(),
  };
}
