import type { LookQuestion, MateLook } from '@/core/ask/mate';
import { MateProver } from '../mate-prover';
import { lookForMates } from '../mate-search';

/** What is known of a position so far. */
export interface MatesTold {
  asked: LookQuestion;
  look: MateLook;
  done: boolean;
}

/** How often it is told, in milliseconds. */
const TELL = 100;

const loaded = fetch('/engine/shogi-mates.wasm')
  .then((response) => response.arrayBuffer())
  .then((bytes) => WebAssembly.compile(bytes))
  .then((compiled) => {
    const prover = new MateProver('shogi', compiled);
    prover.setRules({ quiet: false, everyDefence: false });
    return prover;
  });

let asked: LookQuestion | null = null;
let works = false;

/** Lets messages in. */
const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

async function work(): Promise<void> {
  works = true;
  const prover = await loaded;
  while (asked) {
    const question: LookQuestion = asked;
    const search = lookForMates(prover, question);
    let told = performance.now();
    let step = search.next();
    while (!step.done && asked === question) {
      if (performance.now() - told > TELL) {
        tell({ asked: question, look: step.value, done: false });
        told = performance.now();
        await turn();
      }
      step = search.next();
    }
    if (step.done && asked === question) {
      tell({ asked: question, look: step.value, done: true });
      asked = null;
    }
  }
  works = false;
}

const tell = (told: MatesTold): void => self.postMessage(told);

self.onmessage = ({ data }: MessageEvent<LookQuestion | null>) => {
  asked = data;
  if (asked && !works)
    // what can't be loaded is an error of the worker
    work().catch((error: unknown) =>
      setTimeout(() => {
        throw error;
      }),
    );
};
