import { Worker } from 'node:worker_threads';
import { valuesName, type Aim } from '@/core/endings/aim';
import { positionsOf, waysOf, type Slice } from '@/core/endings/slice';
import type { SliceValues } from './ending-files';
import { MOST_BYTES, needOf } from './ending-plan';
import type { SliceAsked, SliceTold } from './ending-thread';

/** Where the bundler and the compiler put what solves endings. */
export interface EndingSolverFiles {
  /** The compiled solver. */
  module: string;
  /** The bundled ending-thread.ts. */
  thread: string;
}

/** A slice whose values are to be worked out. */
export interface Task {
  slice: Slice;
  aim: Aim;
}

/** What is to be solved, where the values of other slices come from, and where what is solved goes. */
export interface Work {
  tasks: readonly Task[];
  /** @param name as {@link valuesName} gives it. Null where they are not known: an aim that is not exact can do without. */
  load(name: string, slice: Slice): SliceValues | null;
  /** Whether they would be; all are where nothing else is said. */
  isThere?(name: string, slice: Slice): boolean;
  /** What a task's values were before: it is solved again only where what it needs has other results by now. */
  before?(task: Task): SliceValues | null;
  store(task: Task, told: SliceTold): void;
  /** Told whenever a slice is solved. @param share of all positions, 0–1 */
  onProgress?(share: number, slice: Slice): void;
}

export const nameOf = ({ slice, aim }: Task): string => valuesName(slice.key, aim);

/** Names of the values that a task's moves lead to, with their slices. */
const needsOf = ({ slice, aim }: Task): Map<string, Slice> =>
  new Map(
    waysOf(slice).flatMap(({ placing }) =>
      placing ? [[valuesName(placing.slice.key, aim, placing.mixed), placing.slice] as const] : [],
    ),
  );

/** A task that waits for others, or for a thread. */
interface Step {
  task: Task;
  needs: ReadonlyMap<string, Slice>;
  /** Of memory, while it is solved. */
  bytes: number;
  waitsFor: number;
  then: Step[];
  before: SliceValues | null;
  /** Whether it has to be solved. */
  isDue: boolean;
}

/** Whether two values are the same result; a mate may come sooner by one of them. */
const isSameResult = (one: number, other: number): boolean =>
  one === other || (one !== 0 && other !== 0 && (one ^ other) % 2 === 0);

const areSameResults = (some: SliceValues, others: SliceValues): boolean =>
  some.every((values, side) => {
    const against = others[side]!;
    return values.every((value, at) => isSameResult(value, against[at]!));
  });

/** Threads that solve slices, each after those that its moves lead to. */
export class SolvingThreads {
  private readonly threads: SolvingThread[];

  constructor(
    { module, thread }: EndingSolverFiles,
    count: number,
    private readonly signal: AbortSignal,
  ) {
    this.threads = Array.from({ length: count }, () => new SolvingThread(thread, module, signal));
  }

  /** Values are let go of when nothing needs them any more. */
  async solveAll({
    tasks,
    load,
    isThere = () => true,
    before = () => null,
    store,
    onProgress,
  }: Work): Promise<void> {
    const asked = new Set(tasks.map(nameOf));
    const steps = new Map(
      tasks.map((task): [string, Step] => {
        const needs = new Map(
          [...needsOf(task)].filter(([name, slice]) => asked.has(name) || isThere(name, slice)),
        );
        const bytes = needOf(task.slice, [...needs.values()]);
        const known = before(task);
        const isDue = known === null;
        return [nameOf(task), { task, needs, bytes, waitsFor: 0, then: [], before: known, isDue }];
      }),
    );
    const known = new Map<string, SliceValues | null>();
    /** Bytes of what is known. */
    let kept = 0;
    const bytesOf = (values: SliceValues | null | undefined): number =>
      values ? 2 * values[0].length : 0;
    const know = (name: string, values: SliceValues | null): void => {
      known.set(name, values);
      kept += bytesOf(values);
    };
    const forget = (name: string): void => {
      kept -= bytesOf(known.get(name));
      known.delete(name);
    };
    /** How many slices still need each. */
    const uses = new Map<string, number>();
    for (const step of steps.values())
      for (const name of step.needs.keys()) {
        uses.set(name, (uses.get(name) ?? 0) + 1);
        const child = steps.get(name);
        if (!child) continue;
        step.waitsFor++;
        child.then.push(step);
      }
    const valuesOf = (name: string, slice: Slice): SliceValues | null => {
      const there = known.get(name);
      if (there !== undefined) return there;
      const loaded = load(name, slice);
      const values = loaded && shared(loaded);
      know(name, values);
      return values;
    };
    const positions = positionsOf(tasks.map(({ slice }) => slice));
    const ready = [...steps.values()].filter(({ waitsFor }) => waitsFor === 0);
    let waiting = steps.size;
    /** Bytes that slices take which are being solved. */
    let taken = 0;
    /** The next step that is ready and for which there is memory. */
    const next = (): Step | undefined => {
      const left = MOST_BYTES - taken - kept;
      const at = ready.findIndex(({ bytes }) => taken === 0 || bytes <= left);
      return at < 0 ? undefined : ready.splice(at, 1)[0];
    };
    let solved = 0;
    let isOver = false;
    /** @param told null: as before */
    const keep = ({ task, needs, then, before }: Step, told: SliceTold | null): void => {
      if (then.length > 0) know(nameOf(task), told ? told.values : shared(before!));
      for (const name of needs.keys()) {
        const left = uses.get(name)! - 1;
        uses.set(name, left);
        if (left === 0) forget(name);
      }
      waiting--;
      solved += positionsOf([task.slice]);
      if (told) store(task, told);
      const isNew = told !== null && !(before && areSameResults(before, told.values));
      for (const next of then) {
        next.isDue ||= isNew;
        if (--next.waitsFor === 0) ready.push(next);
      }
      onProgress?.(solved / positions, task.slice);
    };
    let wake: (() => void)[] = [];
    const wakeAll = (): void => {
      for (const wakeUp of wake) wakeUp();
      wake = [];
    };
    /** One thread's work: it takes what is ready, and waits where nothing is. */
    const work = async (thread: SolvingThread): Promise<void> => {
      try {
        while (waiting > 0 && !isOver) {
          this.signal.throwIfAborted();
          const step = next();
          if (!step) {
            await new Promise<void>((wakeUp) => wake.push(wakeUp));
            continue;
          }
          if (!step.isDue) {
            keep(step, null);
            wakeAll();
            continue;
          }
          taken += step.bytes;
          const there = new Map<string, SliceValues>();
          for (const [name, slice] of step.needs) {
            const values = valuesOf(name, slice);
            if (values) there.set(name, values);
          }
          keep(step, await thread.solve({ ...step.task, known: there }, step.bytes));
          taken -= step.bytes;
          wakeAll();
        }
      } finally {
        // also where one failed: the others wait for nothing more
        isOver = true;
        for (const wakeUp of wake) wakeUp();
      }
    };
    await Promise.all(this.threads.map(work));
  }

  async end(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.end()));
  }
}

/** The same values where other threads see them. */
const shared = (values: SliceValues): SliceValues =>
  values.map((some) => {
    if (some.buffer instanceof SharedArrayBuffer) return some;
    const copy = new Uint8Array(new SharedArrayBuffer(some.length));
    copy.set(some);
    return copy;
  }) as unknown as SliceValues;

/** From so many bytes on a thread's memory is given back at once, instead of when it is next tidied up. */
const LARGE = 2e8;

/** A thread that solves one slice at a time. */
class SolvingThread {
  private worker: Worker | null = null;
  private asked: { resolve(told: SliceTold): void; reject(reason: unknown): void } | null = null;

  constructor(
    private readonly thread: string,
    private readonly module: string,
    signal: AbortSignal,
  ) {
    signal.addEventListener('abort', () => this.asked?.reject(signal.reason));
  }

  /** @param bytes that it takes */
  async solve(asked: SliceAsked, bytes: number): Promise<SliceTold> {
    const worker = (this.worker ??= this.start());
    try {
      return await new Promise((resolve, reject) => {
        this.asked = { resolve, reject };
        worker.postMessage(asked);
      });
    } finally {
      if (bytes > LARGE) await this.end();
    }
  }

  private start(): Worker {
    const worker = new Worker(this.thread, { workerData: this.module });
    worker.on('message', (told: SliceTold) => this.asked?.resolve(told));
    worker.on('error', (error) => this.asked?.reject(error));
    return worker;
  }

  async end(): Promise<void> {
    await this.worker?.terminate();
    this.worker = null;
  }
}
