import { EXIT, usageError } from '../exit';

const BENCHES: Record<string, (others: readonly string[]) => Promise<void>> = {
  core: async () => (await import('./core')).benchCore(),
  pgn: async () => (await import('./pgn')).benchPgn(),
  sweep: async () => (await import('./sweep')).benchSweep(),
  page: async () => (await import('./page')).benchPage(),
  desk: async () => (await import('./desk')).benchDesk(),
  engine: async (others) => (await import('./engine')).benchEngine(others),
  chance: async () => (await import('./chance')).benchChance(),
};

/**
 * Runs the benches named, or all but the long ones (`engine`, `chance`) and those beside a running server (`page`, `desk`).
 * Paths among the names are native programs for `engine` to compare with.
 */
export async function bench(args: readonly string[]): Promise<number> {
  const others = args.filter((arg) => arg.includes('/'));
  const names = args.filter((arg) => !arg.includes('/'));
  const unknown = names.find((name) => !(name in BENCHES));
  if (unknown !== undefined)
    throw usageError(`Unknown bench ${unknown}; known are ${Object.keys(BENCHES).join(', ')}.`);
  for (const name of names.length > 0 ? names : ['core', 'pgn', 'sweep'])
    await BENCHES[name]!(others);
  return EXIT.done;
}
