import { Worker } from 'node:worker_threads';
import { rmSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { setOf, setsOf, slicesOf } from '@/core/endings/sets';
import { sizeOf, waysOut, type Slice } from '@/core/endings/slice';
import {
  DamagedEnding,
  endingFile,
  EndingFiles,
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

interface Running {
  folder: string;
  threads: number;
  /** Told whenever a slice is solved. @param share of all positions, 0–1 */
  onProgress(share: number, slice: Slice): void;
  signal: AbortSignal;
}

export interface Built {
  sets: number;
  /** Of both sides to move; of the sets that were there before none. */
  positions: number;
  bytes: number;
}

/**
 * Makes the files of all sets up to so many pieces, kings among them, that are not there, or damaged. Files that are done stay when it is stopped,
 * so that it goes on behind them.
 */
export async function buildEndings(
  files: EndingSolverFiles,
  { pieces, ...running }: Running & { pieces: number },
): Promise<Built> {
  const { folder } = running;
  await mkdir(folder, { recursive: true });
  const there = new Map<string, ReadonlyMap<string, SliceValues>>();
  const left = new Map<string, { slices: number; packed: PackedSlice[] }>();
  const slices: Slice[] = [];
  for (let count = 3; count <= pieces; count++)
    for (const set of setsOf(count)) {
      const file = readEndingFile(folder, set);
      if (file) {
        there.set(set, file);
        continue;
      }
      const own = slicesOf(set);
      left.set(set, { slices: own.length, packed: [] });
      slices.push(...own);
    }
  const built: Built = { sets: left.size, positions: positionsOf(slices), bytes: 0 };
  const load = (slice: Slice): SliceValues => there.get(setOf(slice))!.get(slice.key)!;
  const store = (slice: Slice, packed: PackedSlice): void => {
    const set = setOf(slice);
    const rest = left.get(set)!;
    rest.packed.push(packed);
    if (rest.packed.length === rest.slices)
      built.bytes += writeEndingFile(folder, set, rest.packed);
  };
  await solveAll(files, { slices, load, store }, running);
  return built;
}

/** What it takes to know some slices exactly. */
export interface Reach {
  /** All slices that can be reached from them, themselves among them, whose values no file has. */
  slices: Slice[];
  /** Of both sides to move. */
  positions: number;
  /** Of memory, at most. */
  bytes: number;
}

/** Slices beyond which nothing is begun. */
const MOST_SLICES = 50_000;

/** What has to be solved before some slices are known; null where that is beyond reach. */
export function reachOf(wanted: readonly Slice[], folder: string, threads: number): Reach | null {
  const tables = new EndingFiles(folder);
  try {
    const found = new Map<string, Slice>();
    const open = [...wanted];
    for (let next = open.pop(); next; next = open.pop()) {
      if (found.has(next.key) || isThere(tables, next)) continue;
      if (found.size === MOST_SLICES) return null;
      found.set(next.key, next);
      open.push(...childrenOf(next));
    }
    const slices = [...found.values()];
    return { slices, positions: positionsOf(slices), bytes: memoryOf(slices, threads) };
  } finally {
    tables.close();
  }
}

/** Whether a file has a slice; one that is damaged is taken away. */
function isThere(tables: EndingFiles, slice: Slice): boolean {
  try {
    return tables.has(slice);
  } catch (error) {
    if (!(error instanceof DamagedEnding)) throw error;
    tables.remove(error);
    return false;
  }
}

/** Solves all that has to be known of slices, and keeps it: what is done stays when it is stopped. @throws DamagedEnding where a file is; without it, it is made anew the next time */
export async function proveSlices(
  files: EndingSolverFiles,
  { slices }: Reach,
  running: Running,
): Promise<void> {
  const { folder } = running;
  await mkdir(folder, { recursive: true });
  const sets = new Map<string, ReadonlyMap<string, SliceValues>>();
  const load = (slice: Slice): SliceValues => {
    const set = setOf(slice);
    const known = sets.get(set) ?? readEndingFile(folder, set) ?? new Map<string, SliceValues>();
    sets.set(set, known);
    const values = known.get(slice.key) ?? readEndingFile(folder, slice.key)?.get(slice.key);
    if (values) return values;
    const path = endingFile(folder, slice.key);
    rmSync(path, { force: true });
    throw new DamagedEnding(path);
  };
  const store = (slice: Slice, packed: PackedSlice): void =>
    void writeEndingFile(folder, slice.key, [packed]);
  await solveAll(files, { slices, load, store }, running);
}

const positionsOf = (slices: readonly Slice[]): number =>
  slices.reduce((sum, slice) => sum + 2 * sizeOf(slice), 0);

/** Arrays of a byte a position that a slice takes while it is solved. */
const ARRAYS = 6;

/** Memory that slices take at most: the largest with all that their moves lead to, one a thread, and what waits for others. */
function memoryOf(slices: readonly Slice[], threads: number): number {
  const needs = slices
    .map((slice) => ARRAYS * sizeOf(slice) + positionsOf(childrenOf(slice)))
    .sort((one, other) => other - one);
  const children = new Map(slices.flatMap(childrenOf).map((slice) => [slice.key, slice]));
  return (
    needs.slice(0, threads).reduce((sum, need) => sum + need, 0) +
    positionsOf([...children.values()])
  );
}

/** What is to be solved, where the values of other slices come from, and where what is solved goes. */
interface Work {
  slices: readonly Slice[];
  load(slice: Slice): SliceValues;
  store(slice: Slice, packed: PackedSlice): void;
}

/** A slice that waits for others, or for a thread. */
interface Task {
  slice: Slice;
  children: readonly Slice[];
  waitsFor: number;
  then: Task[];
}

/** Solves slices, each after those that its moves lead to; values are let go of when nothing needs them any more. */
async function solveAll(
  { module, thread }: EndingSolverFiles,
  { slices, load, store }: Work,
  { threads, onProgress, signal }: Omit<Running, 'folder'>,
): Promise<void> {
  const tasks = new Map(
    slices.map((slice): [string, Task] => [
      slice.key,
      { slice, children: childrenOf(slice), waitsFor: 0, then: [] },
    ]),
  );
  const known = new Map<string, SliceValues>();
  /** How many slices still need each. */
  const uses = new Map<string, number>();
  for (const task of tasks.values())
    for (const { key } of task.children) {
      uses.set(key, (uses.get(key) ?? 0) + 1);
      const child = tasks.get(key);
      if (!child) continue;
      task.waitsFor++;
      child.then.push(task);
    }
  const valuesOf = (slice: Slice): SliceValues => {
    const values = known.get(slice.key) ?? shared(load(slice));
    known.set(slice.key, values);
    return values;
  };
  const positions = positionsOf(slices);
  const ready = [...tasks.values()].filter(({ waitsFor }) => waitsFor === 0);
  let waiting = tasks.size;
  let solved = 0;
  let isOver = false;
  const keep = ({ slice, children, then }: Task, { values, packed }: SliceTold): void => {
    if (then.length > 0) known.set(slice.key, values);
    for (const { key } of children) {
      const left = uses.get(key)! - 1;
      uses.set(key, left);
      if (left === 0) known.delete(key);
    }
    waiting--;
    solved += 2 * sizeOf(slice);
    store(slice, packed);
    for (const next of then) if (--next.waitsFor === 0) ready.push(next);
    onProgress(solved / positions, slice);
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
        const children = task.children.map((child) => [child.key, valuesOf(child)] as const);
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
}

/** The slices that moves lead to, each once. */
const childrenOf = (slice: Slice): Slice[] => [
  ...new Map(
    waysOut(slice).flatMap(({ placing }) =>
      placing ? [[placing.slice.key, placing.slice] as const] : [],
    ),
  ).values(),
];

/** The same values where other threads see them. */
const shared = (values: SliceValues): SliceValues =>
  values.map((some) => {
    if (some.buffer instanceof SharedArrayBuffer) return some;
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
