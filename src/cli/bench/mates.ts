import { readFile } from 'node:fs/promises';
import { MATE_PLIES } from '@/core/ask/mate';
import { finish, searchMate } from '@/engine/mate-search';
import { loadMates } from '../load-mates';
import { report } from './figures';
import { quantile } from './server';

const root = process.env.BEKTRA_ROOT ?? process.cwd();

/** What it takes to find a mate, to prove that none is shorter, and to find all moves that begin one. */
export async function benchMates(): Promise<void> {
  const text = await readFile(`${root}/tests/mates/composed.tsv`, 'utf8');
  const problems = text
    .trim()
    .split('\n')
    .map((line) => line.split('\t') as [plies: string, sfen: string]);
  const prover = loadMates('shogi');
  for (const plies of new Set(problems.map(([of]) => of))) {
    const some = problems.filter(([of]) => of === plies);
    const found: number[] = [];
    const all: number[] = [];
    let nodes = 0;
    let spent = 0;
    let right = 0;
    for (const [, position] of some) {
      prover.setRules({ quiet: false, everyDefence: false });
      const steps = searchMate(prover, { position, plies: MATE_PLIES.shogi, nodes: 100_000_000 });
      const started = performance.now();
      let step = steps.next();
      while (!step.done && !step.value.proven) step = steps.next();
      found.push(performance.now() - started);
      const answer = step.done ? step.value : finish(steps);
      all.push(performance.now() - started);
      nodes += answer.nodes;
      spent += all.at(-1)!;
      if (answer.mate === Number(plies) && answer.proven) right++;
    }
    report(
      `mates of ${plies} plies: the shortest, proved`,
      `${right} of ${some.length}, p50 ${quantile(found, 0.5).toFixed(0)} ms, p95 ${quantile(found, 0.95).toFixed(0)} ms`,
    );
    report(
      'the same, with its line and all moves that begin it',
      `p50 ${quantile(all, 0.5).toFixed(0)} ms, p95 ${quantile(all, 0.95).toFixed(0)} ms, ${(nodes / spent).toFixed(0)} k positions/s`,
    );
  }
}
