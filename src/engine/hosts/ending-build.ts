import { rmSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { setOf, setsUpTo, slicesOf } from '@/core/endings/sets';
import { positionsOf, type Slice } from '@/core/endings/slice';
import {
  DamagedEnding,
  endingFile,
  readEndingFile,
  writeEndingFile,
  type PackedSlice,
  type SliceValues,
} from './ending-files';
import type { Reach } from './ending-plan';
import { SolvingThreads, type EndingSolverFiles, type Work } from './ending-work';

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
  for (const set of setsUpTo(pieces)) {
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
    rest.packed.push(packed!);
    if (rest.packed.length === rest.slices)
      built.bytes += writeEndingFile(folder, set, rest.packed);
  };
  await solveExactly(files, { slices, load, store }, running);
  return built;
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
    void writeEndingFile(folder, slice.key, [packed!]);
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
