import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { movesOf, valueOf } from '@/core/endings/exact';
import { buildEndings } from '@/engine/hosts/ending-build';
import { EndingFiles } from '@/engine/hosts/ending-files';
import { ENDING_SOLVER } from '../engine-files';
import { drawnEndings } from './ending-positions';
import { report } from './figures';
import { quantile } from './server';

const PIECES = 4;
const ASKED = 2000;

/** What ending tables cost to make, to keep and to ask. */
export async function benchEndings(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'bektra-endings-'));
  try {
    let memory = 0;
    const watch = setInterval(() => (memory = Math.max(memory, process.memoryUsage.rss())), 50);
    const started = performance.now();
    const { sets, positions, bytes } = await buildEndings(ENDING_SOLVER, {
      folder,
      pieces: PIECES,
      threads: availableParallelism(),
      signal: new AbortController().signal,
      onProgress: () => undefined,
    });
    clearInterval(watch);
    const seconds = (performance.now() - started) / 1000;
    report(
      `${sets} sets of up to ${PIECES} pieces, with the distance to mate`,
      `${seconds.toFixed(1)} s, ${(positions / seconds / 1e6).toFixed(1)} M positions/s, ${(memory / 1e6).toFixed(0)} MB of memory, ${(bytes / 1e6).toFixed(1)} MB on disk`,
    );
    const tables = new EndingFiles(folder);
    const asked = drawnEndings(ASKED);
    const looks = asked.map((position) => {
      const ask = (): unknown => valueOf(position, tables.look);
      const first = timed(ask);
      return { first, again: timed(ask) };
    });
    report(
      'a position whose block is at hand',
      told(
        looks.map(({ again }) => again),
        1000,
        'µs',
      ),
    );
    report(
      'any position',
      told(
        looks.map(({ first }) => first),
        1000,
        'µs',
      ),
    );
    const cards = asked.map((position) => timed(() => movesOf(position, tables.look)));
    report('all moves of any position', told(cards, 1, 'ms'));
    const cold = asked.slice(0, 200).map((position) => {
      const fresh = new EndingFiles(folder);
      const time = timed(() => movesOf(position, fresh.look));
      fresh.close();
      return time;
    });
    report('the same, with nothing read before', told(cold, 1, 'ms'));
    tables.close();
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const told = (times: number[], scale: number, unit: string): string =>
  `p50 ${(scale * quantile(times, 0.5)).toFixed(1)} ${unit}, p95 ${(scale * quantile(times, 0.95)).toFixed(1)} ${unit}`;

function timed(work: () => unknown): number {
  const started = performance.now();
  work();
  return performance.now() - started;
}
