/** Best of several runs, in seconds: the machine is noisy, and noise only adds. */
export function bestOf(runs: number, work: () => void): number {
  let best = Infinity;
  for (let run = 0; run < runs; run++) {
    const started = performance.now();
    work();
    best = Math.min(best, performance.now() - started);
  }
  return best / 1000;
}

export const report = (name: string, figure: string): void =>
  void process.stdout.write(`${name.padEnd(52)} ${figure}\n`);

export const perSecond = (count: number, seconds: number): string => {
  const rate = count / seconds;
  return rate >= 1e6 ? `${(rate / 1e6).toFixed(2)} M/s` : `${rate.toFixed(0)} /s`;
};
