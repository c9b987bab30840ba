import { rmSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { setOf, setsOf, slicesOf } from '@/core/endings/sets';
import { sizeOf, waysOut, type Slice, type WayKind } from '@/core/endings/slice';
import {
  DamagedEnding,
  endingFile,
  EndingFiles,
  readEndingFile,
  writeEndingFile,
  type PackedSlice,
  type SliceValues,
} from './ending-files';
import { positionsOf, SolvingThreads, type EndingSolverFiles, type Work } from './ending-work';

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
  const load = (_: string, slice: Slice): SliceValues => there.get(setOf(slice))!.get(slice.key)!;
  const store: Work['store'] = ({ slice }, { packed }) => {
    const set = setOf(slice);
    const rest = left.get(set)!;
    rest.packed.push(packed);
    if (rest.packed.length === rest.slices)
      built.bytes += writeEndingFile(folder, set, rest.packed);
  };
  await solveExactly(files, { slices, load, store }, running);
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

/** Beyond what nothing is begun. */
export interface Limits {
  slices: number;
  /** Of both sides to move. */
  positions: number;
}

/** Slices after which others get their turn. */
const TURN = 50;
const turn = (): Promise<void> => new Promise((next) => setImmediate(next));

/**
 * What has to be solved before some slices are known; null where that is beyond the limits, which is found out soon.
 * @param follows whether what a move leads to has to be known too
 */
export async function reachOf(
  wanted: readonly Slice[],
  folder: string,
  threads: number,
  limits: Limits = { slices: 50_000, positions: Infinity },
  follows: (way: WayKind) => boolean = () => true,
): Promise<Reach | null> {
  const tables = new EndingFiles(folder);
  try {
    const found = new Map<string, Slice>();
    const children = new Map<string, Slice>();
    const needs: number[] = [];
    const open = [...wanted];
    let positions = 0;
    for (let next = open.pop(); next; next = open.pop()) {
      if (found.has(next.key) || isThere(tables, next)) continue;
      positions += positionsOf([next]);
      if (found.size === limits.slices || positions > limits.positions) return null;
      found.set(next.key, next);
      const own = childrenOf(next, follows);
      for (const child of own) children.set(child.key, child);
      needs.push(ARRAYS * sizeOf(next) + positionsOf(own));
      open.push(...own);
      if (found.size % TURN === 0) await turn();
    }
    // the largest with all that their moves lead to, one a thread, and what waits for others
    needs.sort((one, other) => other - one);
    const bytes =
      needs.slice(0, threads).reduce((sum, need) => sum + need, 0) +
      positionsOf([...children.values()]);
    return { slices: [...found.values()], positions, bytes };
  } finally {
    tables.close();
  }
}

/** Arrays of a byte a position that a slice takes while it is solved. */
const ARRAYS = 6;

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
  const load = (_: string, slice: Slice): SliceValues => {
    const set = setOf(slice);
    const known = sets.get(set) ?? readEndingFile(folder, set) ?? new Map<string, SliceValues>();
    sets.set(set, known);
    const values = known.get(slice.key) ?? readEndingFile(folder, slice.key)?.get(slice.key);
    if (values) return values;
    const path = endingFile(folder, slice.key);
    rmSync(path, { force: true });
    throw new DamagedEnding(path);
  };
  const store: Work['store'] = ({ slice }, { packed }) =>
    void writeEndingFile(folder, slice.key, [packed]);
  await solveExactly(files, { slices, load, store }, running);
}

async function solveExactly(
  files: EndingSolverFiles,
  { slices, ...work }: Pick<Work, 'load' | 'store'> & { slices: readonly Slice[] },
  { threads, signal, onProgress }: Running,
): Promise<void> {
  const solving = new SolvingThreads(files, threads, signal);
  const tasks = slices.map((slice) => ({ slice, aim: 'exact' as const }));
  await solving.solveAll({ ...work, tasks, onProgress }).finally(() => solving.end());
}

/** The slices that moves lead to, each once. */
export const childrenOf = (
  slice: Slice,
  follows: (way: WayKind) => boolean = () => true,
): Slice[] => [
  ...new Map(
    waysOut(slice, follows).flatMap(({ placing }) =>
      placing ? [[placing.slice.key, placing.slice] as const] : [],
    ),
  ).values(),
];
