import { EXIT, usageError } from '../exit';

const BENCHES: Record<string, () => Promise<void>> = {
  chance: async () => (await import('./chance')).benchChance(),
};

/** Runs the benches named, or all of them. */
export async function bench(names: readonly string[]): Promise<number> {
  const unknown = names.find((name) => !(name in BENCHES));
  if (unknown !== undefined)
    throw usageError(`Unknown bench ${unknown}; known are ${Object.keys(BENCHES).join(', ')}.`);
  for (const name of names.length > 0 ? names : Object.keys(BENCHES)) await BENCHES[name]!();
  return EXIT.done;
}
