import { EXIT, usageError } from '../exit';

const BENCHES: Record<string, () => Promise<void>> = {
  core: async () => (await import('./core')).benchCore(),
  pgn: async () => (await import('./pgn')).benchPgn(),
  sweep: async () => (await import('./sweep')).benchSweep(),
  page: async () => (await import('./page')).benchPage(),
  chance: async () => (await import('./chance')).benchChance(),
};

/** Runs the benches named, or all but the long `chance` and `page`, which needs a running server. */
export async function bench(names: readonly string[]): Promise<number> {
  const unknown = names.find((name) => !(name in BENCHES));
  if (unknown !== undefined)
    throw usageError(`Unknown bench ${unknown}; known are ${Object.keys(BENCHES).join(', ')}.`);
  for (const name of names.length > 0 ? names : ['core', 'pgn', 'sweep']) await BENCHES[name]!();
  return EXIT.done;
}
