import { EXIT, usageError } from '../exit';

/** @param others native programs to compare with; `games`: how many to play, where a bench plays any */
type Bench = (others: readonly string[], games: number | undefined) => Promise<void>;

const BENCHES: Record<string, Bench> = {
  core: async () => (await import('./core')).benchCore(),
  pgn: async () => (await import('./pgn')).benchPgn(),
  sweep: async () => (await import('./sweep')).benchSweep(),
  endings: async () => (await import('./endings')).benchEndings(),
  'ending-card': async () => (await import('./ending-card')).benchEndingCard(),
  'five-pieces': async () => (await import('./five-pieces')).benchFivePieces(),
  proofs: async (_, count) => (await import('./proofs')).benchProofs(count),
  mates: async () => (await import('./mates')).benchMates(),
  queue: async () => (await import('./queue')).benchQueue(),
  library: async (_, games) => (await import('./library')).benchLibrary(games),
  base: async (_, games) => (await import('./base')).benchBase(games),
  page: async () => (await import('./page')).benchPage(),
  desk: async () => (await import('./desk')).benchDesk(),
  engine: async (others) => (await import('./engine')).benchEngine(others),
  quiet: async () => (await import('./quiet')).benchQuiet(),
  chance: async (_, games) => (await import('./chance')).benchChance(games),
  faults: async () => (await import('./faults')).benchFaults(),
  decided: async (_, games) => (await import('./decided-games')).benchDecided(games),
  crashes: async () => (await import('./crashes')).benchCrashes(),
  mutants: async (_, count) => (await import('./mutants')).benchMutants(count),
  verdicts: async ([folder], games) =>
    (await import('./verdicts')).benchVerdicts(['quick', 'standard'], folder, games),
  'verdicts-deep': async ([folder], games) =>
    (await import('./verdicts')).benchVerdicts(['deep'], folder, games),
  levels: async (_, games) => (await import('./levels')).benchLevels(games),
};

/**
 * Runs the benches named, or all but the long ones (`endings`, `five-pieces`, `proofs`, `mates`, `engine`, `quiet`, `chance`, `levels`, `faults`, `decided`, `crashes`, `mutants`, `verdicts`, `verdicts-deep`) and those beside a running server (`library`, `base`, `page`, `desk`, `ending-card`).
 * Paths among the names are native programs for `engine` to compare with, or a folder of references for `verdicts`; a number is how many games
 * `chance`, `levels` and `decided` play, `verdicts` goes over, `proofs` proves of each kind, or `library` and `base` take in.
 */
export async function bench(args: readonly string[]): Promise<number> {
  const others = args.filter((arg) => arg.includes('/'));
  const games = args.find((arg) => /^\d+$/.test(arg));
  const names = args.filter((arg) => !arg.includes('/') && arg !== games);
  const unknown = names.find((name) => !(name in BENCHES));
  if (unknown !== undefined)
    throw usageError(`Unknown bench ${unknown}; known are ${Object.keys(BENCHES).join(', ')}.`);
  for (const name of names.length > 0 ? names : ['core', 'pgn', 'sweep'])
    await BENCHES[name]!(others, games === undefined ? undefined : Number(games));
  return EXIT.done;
}
