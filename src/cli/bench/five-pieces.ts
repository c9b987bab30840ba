import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { slicesOf } from '@/core/endings/sets';
import { proveSlices } from '@/engine/hosts/ending-build';
import { readEndingFile } from '@/engine/hosts/ending-files';
import { reachOf } from '@/engine/hosts/ending-plan';
import { ENDING_SOLVER } from '../engine-files';
import { report } from './figures';

const SET = 'KRPKR';

/** What it costs to know a set of five pieces with all that can be reached from it, with nothing known before. */
export async function benchFivePieces(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'bektra-five-'));
  try {
    const threads = availableParallelism();
    const wanted = slicesOf(SET);
    const reach = (await reachOf(wanted, folder, threads))!;
    let memory = 0;
    const watch = setInterval(() => (memory = Math.max(memory, process.memoryUsage.rss())), 100);
    const started = performance.now();
    await proveSlices(ENDING_SOLVER, reach, {
      folder,
      threads,
      onProgress: () => undefined,
      signal: new AbortController().signal,
    });
    clearInterval(watch);
    const seconds = (performance.now() - started) / 1000;
    report(
      `${SET} and all that can be reached from it, from scratch`,
      `${(seconds / 60).toFixed(1)} min, ${reach.slices.length} slices, ${(reach.positions / 1e6).toFixed(0)} M positions, ${(memory / 1e9).toFixed(2)} GB of memory (${(reach.bytes / 1e9).toFixed(1)} foretold)`,
    );
    let longest = 0;
    for (const { key } of wanted)
      for (const value of readEndingFile(folder, key)!.get(key)![0])
        if (value % 2 === 0) longest = Math.max(longest, value);
    report('its longest win, in moves of the stronger side', String(longest / 2));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
