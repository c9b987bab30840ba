import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { chess } from '@/core/chess/ruleset';
import { valueOf } from '@/core/endings/exact';
import { slicesOf } from '@/core/endings/sets';
import { proveSlices } from '@/engine/hosts/ending-build';
import { EndingFiles, readEndingFile } from '@/engine/hosts/ending-files';
import { planProof, reachOf } from '@/engine/hosts/ending-plan';
import { proveAs } from '@/engine/hosts/ending-proof';
import { ENDING_SOLVER } from '../engine-files';
import { report } from './figures';
import { proofFolder } from './proof-folder';

const SET = 'KRPKR';

/** Rook and pawn against rook, as games come to it: pawns of three files, on three ranks. */
const GIVEN = [
  '8/8/8/4k3/8/3RP3/4K3/r7 w - - 0 1',
  '1k6/8/1P6/2K5/8/8/6r1/3R4 b - - 0 1',
  '5k2/R7/5KP1/8/8/8/8/6r1 w - - 0 1',
];

/** What it costs to prove a position of five pieces beside the tables of the data folder, and to know a whole set with nothing known before. */
export async function benchFivePieces(): Promise<void> {
  for (const position of GIVEN) await provePosition(position);
  await solveSet();
}

async function provePosition(text: string): Promise<void> {
  const folder = await proofFolder();
  try {
    const position = chess.start(text);
    const threads = availableParallelism();
    const started = performance.now();
    const plan = (await planProof(position, folder, threads, totalmem()))!;
    await proveAs(plan, position, ENDING_SOLVER, {
      folder,
      threads,
      budget: 0,
      signal: new AbortController().signal,
      onProgress: () => undefined,
    });
    const seconds = (performance.now() - started) / 1000;
    const tables = new EndingFiles(folder);
    const value = valueOf(position, tables.look);
    tables.close();
    report(
      `${text}, beside the tables`,
      `${seconds.toFixed(0)} s (${plan.seconds.toFixed(0)} foretold), ${plan.reach.slices.length} slices, ${(plan.reach.positions / 1e6).toFixed(0)} M positions; ${value === null ? 'unknown' : `value ${value}`}`,
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The set with all that can be reached from it, with nothing known before. */
async function solveSet(): Promise<void> {
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
