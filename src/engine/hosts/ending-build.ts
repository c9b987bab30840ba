import { Worker } from 'node:worker_threads';
import { mkdir } from 'node:fs/promises';
import { setOf, setsOf, slicesOf } from '@/core/endings/sets';
import { sizeOf, waysOut, type Slice } from '@/core/endings/slice';
import {
  readEndingFile,
  writeEndingFile,
  type PackedSlice,
  type SliceValues,
} from './ending-files';
import type { SliceAsked, SliceTold } from './ending-thread';

/** Where the bundler and the compiler put what solves endings. */
export interface EndingSolverFiles {
  /** The compiled solver. */
  module: string;
  /** The bundled ending-thread.ts. */
  thread: string;
}

interface Building {
  folder: string;
  /** Of the largest sets, kings among them. */
  pieces: number;
  threads: number;
  /** Told whenever a slice is solved. @param share of all positions, 0–1 */
  onProgress(share: number, set: string): void;
  signal: AbortSignal;
}

export interface Built {
  sets: number;
  /** Of both sides to move; of the sets that were there before none. */
  positions: number;
  bytes: number;
}

/** A slice that waits for others, or for a thread. */
interface Task {
  slice: Slice;
  waitsFor: number;
  then: Task[];
}

/**
 * Makes the files of all sets up to so many pieces that are not there, or damaged. Files that are done stay when it is stopped, so that it goes
 * on behind them.
 */
export async function buildEndings(
  { module, thread }: EndingSolverFiles,
  { folder, pieces, threads, onProgress, signal }: Building,
): Promise<Built> {
  await mkdir(folder, { recursive: true });
  const known = new Map<string, SliceValues>();
  const tasks = new Map<string, Task>();
  const left = new Map<string, { slices: number; packed: PackedSlice[] }>();
  for (let count = 3; count <= pieces; count++)
    for (const set of setsOf(count)) {
      const file = readEndingFile(folder, set);
      for (const [key, values] of file ?? []) known.set(key, shared(values));
      if (file) continue;
      const slices = slicesOf(set);
      left.set(set, { slices: slices.length, packed: [] });
      for (const slice of slices) tasks.set(slice.key, { slice, waitsFor: 0, then: [] });
    }
  for (const task of tasks.values())
    for (const key of childrenOf(task.slice)) {
      const child = tasks.get(key);
      if (!child) continue;
      task.waitsFor++;
      child.then.push(task);
    }
  const built: Built = { sets: left.size, positions: 0, bytes: 0 };
  const positions = [...tasks.values()].reduce((sum, { slice }) => sum + 2 * sizeOf(slice), 0);
  const ready = [...tasks.values()].filter(({ waitsFor }) => waitsFor === 0);
  let waiting = tasks.size;
  let isOver = false;
  const keep = ({ slice, then }: Task, { values, packed }: SliceTold): void => {
    known.set(slice.key, values);
    waiting--;
    built.positions += 2 * sizeOf(slice);
    const set = setOf(slice);
    const rest = left.get(set)!;
    rest.packed.push(packed);
    if (rest.packed.length === rest.slices)
      built.bytes += writeEndingFile(folder, set, rest.packed);
    for (const next of then) if (--next.waitsFor === 0) ready.push(next);
    onProgress(built.positions / positions, set);
  };
  let wake: (() => void)[] = [];
  /** One thread's work: it takes what is ready, and waits where nothing is. */
  const work = async (): Promise<void> => {
    const solving = new SolvingThread(thread, module, signal);
    try {
      while (waiting > 0 && !isOver) {
        signal.throwIfAborted();
        const task = ready.shift();
        if (!task) {
          await new Promise<void>((next) => wake.push(next));
          continue;
        }
        const children = childrenOf(task.slice).map((key) => [key, known.get(key)!] as const);
        keep(task, await solving.solve({ slice: task.slice, known: new Map(children) }));
        for (const next of wake) next();
        wake = [];
      }
    } finally {
      // also where one failed: the others wait for nothing more
      isOver = true;
      for (const next of wake) next();
      await solving.end();
    }
  };
  await Promise.all(Array.from({ length: threads }, work));
  return built;
}

/** The slices that moves lead to, each once. */
const childrenOf = (slice: Slice): string[] => [
  ...new Set(waysOut(slice).flatMap(({ placing }) => placing?.slice.key ?? [])),
];

/** The same values where other threads see them. */
const shared = (values: SliceValues): SliceValues =>
  values.map((some) => {
    const copy = new Uint8Array(new SharedArrayBuffer(some.length));
    copy.set(some);
    return copy;
  }) as unknown as SliceValues;

/** A thread that solves one slice at a time. */
class SolvingThread {
  private readonly worker: Worker;
  private asked: { resolve(told: SliceTold): void; reject(reason: unknown): void } | null = null;

  constructor(thread: string, module: string, signal: AbortSignal) {
    this.worker = new Worker(thread, { workerData: module });
    this.worker.on('message', (told: SliceTold) => this.asked?.resolve(told));
    this.worker.on('error', (error) => this.asked?.reject(error));
    signal.addEventListener('abort', () => this.asked?.reject(signal.reason));
  }

  solve(asked: SliceAsked): Promise<SliceTold> {
    return new Promise((resolve, reject) => {
      this.asked = { resolve, reject };
      this.worker.postMessage(asked);
    });
  }

  async end(): Promise<void> {
    await this.worker.terminate();
  }
}
