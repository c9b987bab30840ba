import { writeFile } from 'node:fs/promises';
import { availableParallelism, totalmem } from 'node:os';
import { isCertain } from '@/contract/endings';
import { chess } from '@/core/chess/ruleset';
import { worthOf, worthOfMoves, type Result, type Worth } from '@/core/endings/exact';
import { setOf, setsUpTo } from '@/core/endings/sets';
import { buildEndings } from '@/engine/hosts/ending-build';
import { DamagedEnding } from '@/engine/hosts/ending-files';
import { packResults } from '@/engine/hosts/ending-results';
import { planProof } from '@/engine/hosts/ending-plan';
import { proveAs, PROOF_POSITIONS } from '@/engine/hosts/ending-proof';
import { chessPositionOf, endingsFolder, openTables } from '@/server/endings';
import { eachPosition } from './each-position';
import { ENDING_SOLVER } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import type { Options } from './options';
import { complain, print } from './print';

const MOST_PIECES = 4;

/** `endings build`: makes all ending tables that are not there; `endings pack`: their results alone, as they ship with the app. */
export async function endings(
  action: string | undefined,
  { pieces = MOST_PIECES, out }: Pick<Options, 'pieces' | 'out'>,
): Promise<number> {
  if (action === 'pack' && out !== undefined) return pack(out);
  if (action !== 'build')
    throw usageError(
      'Say what: ./bektra endings build [--pieces 3|4] or ./bektra endings pack --out FILE',
    );
  const started = performance.now();
  const stop = new AbortController();
  process.once('SIGINT', () =>
    stop.abort(new CommandError('Stopped; run it again to go on.', EXIT.problems)),
  );
  let told = 0;
  const built = await buildEndings(ENDING_SOLVER, {
    folder: endingsFolder(),
    pieces,
    threads: availableParallelism(),
    signal: stop.signal,
    onProgress: (share, slice) => {
      const percent = Math.floor(100 * share);
      if (percent < told + 5) return;
      told = percent;
      print(`${percent} % (${setOf(slice)})`);
    },
  });
  const seconds = (performance.now() - started) / 1000;
  print(
    built.sets === 0
      ? `All ending tables are there: ${endingsFolder()}`
      : `${built.sets} ${built.sets === 1 ? 'set' : 'sets'}, ${built.positions.toLocaleString('en')} positions in ${seconds.toFixed(1)} s, ${(built.bytes / 1e6).toFixed(1)} MB in ${endingsFolder()}`,
  );
  return EXIT.done;
}

async function pack(out: string): Promise<number> {
  const packed = packResults(endingsFolder(), setsUpTo(MOST_PIECES));
  await writeFile(out, packed);
  print(`${(packed.length / 1e6).toFixed(2)} MB in ${out}`);
  return EXIT.done;
}

/** `ending --prove`: solves what can be reached from a position, or finds bounds, unless tables have it. */
async function prove(text: string): Promise<void> {
  const position = chessPositionOf(text);
  const folder = endingsFolder();
  const tables = openTables();
  const isKnown = !position || isCertain(worthOf(position, tables));
  tables.close();
  if (isKnown) return;
  const threads = availableParallelism();
  const plan = await planProof(position, folder, threads, totalmem());
  if (!plan)
    throw new CommandError(
      'Out of reach: too much can be reached from it, or somebody may still castle. A later position, with fewer pieces or pawns, may be within reach.',
      EXIT.problems,
    );
  const { how, reach, seconds } = plan;
  const minutes = Math.ceil(seconds / 60);
  complain(
    `${reach.slices.length} ${reach.slices.length === 1 ? 'slice' : 'slices'}, ${(reach.positions / 1e6).toFixed(1)} million positions: about ${minutes === 1 ? 'a minute' : `${minutes} minutes`}, ${(reach.bytes / 1e9).toFixed(1)} GB of memory at most.${how === 'bounds' ? ' Then promotions are gone into, one after the other.' : ''} What is done stays when it is stopped.`,
  );
  const stop = new AbortController();
  process.once('SIGINT', () =>
    stop.abort(new CommandError('Stopped; run it again to go on.', EXIT.problems)),
  );
  let told = 0;
  await proveAs(plan, position, ENDING_SOLVER, {
    folder,
    threads,
    signal: stop.signal,
    budget: PROOF_POSITIONS,
    onProgress: (share) => {
      const percent = Math.floor(100 * share);
      if (percent < told + 5) return;
      told = percent;
      complain(`${percent} %`);
    },
  });
}

interface Told {
  result: Result | 'unknown';
  bound?: string;
  distance?: number;
}

/** What is said of a position or a move: its result, how far the mate is, or what is known of it. */
function toldOf({ least, most, plies, isAtMost }: Worth): Told {
  if (least !== most)
    return least === 'draw' || most === 'draw'
      ? { result: 'unknown', bound: least === 'draw' ? 'at least draw' : 'at most draw' }
      : { result: 'unknown' };
  return { result: least, ...(plies === null || isAtMost ? {} : { distance: plies }) };
}

const wordsOf = ({ result, bound, distance }: Told): string =>
  bound ?? (distance === undefined ? result : `${result}, mate in ${distance} plies`);

/** `ending`: what a position is worth with best play, and each of its moves. */
export async function ending(
  said: string | undefined,
  { json = false, prove: proves = false }: Options,
): Promise<number> {
  if (proves && said !== undefined && said !== '-') await prove(said).catch(sayDamage);
  const tables = openTables();
  const asked = eachPosition(said, json, ({ text, ruleset }) => {
    const isChess = ruleset.kind === 'chess';
    const position = isChess ? chess.start(text) : null;
    const worth = position && toldOf(worthOf(position, tables));
    if (!position || !worth || (worth.result === 'unknown' && !worth.bound)) {
      if (json) return print(JSON.stringify({ position: text, result: 'unknown', moves: [] }));
      return print(
        isChess
          ? 'unknown: no table has it. ./bektra endings build makes those of up to four pieces, --prove solves this one.'
          : 'unknown: there are ending tables for chess alone.',
      );
    }
    const moves = worthOfMoves(position, tables).map((one) => ({
      move: chess.code(one.move),
      ...toldOf(one.worth),
    }));
    if (json) return print(JSON.stringify({ position: text, ...worth, moves }));
    print(wordsOf(worth));
    for (const one of moves) print(`${one.move}\t${wordsOf(one)}`);
  });
  return asked.catch(sayDamage);
}

function sayDamage(error: unknown): never {
  if (!(error instanceof DamagedEnding)) throw error;
  throw new CommandError(
    `${error.path} is damaged; ./bektra endings build makes it anew.`,
    EXIT.failed,
  );
}
