import { availableParallelism, totalmem } from 'node:os';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { movesOf, placeIn, readValue, valueOf, type Exact } from '@/core/endings/exact';
import { setOf } from '@/core/endings/sets';
import { PositionError } from '@/core/game/ruleset';
import { buildEndings, proveSlices, reachOf } from '@/engine/hosts/ending-build';
import { kindOfPosition } from '@/core/rulesets';
import { DamagedEnding, EndingFiles } from '@/engine/hosts/ending-files';
import { endingsFolder } from '@/server/endings';
import { eachPosition } from './each-position';
import { ENDING_SOLVER } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import type { Options } from './options';
import { complain, print } from './print';

const MOST_PIECES = 4;

/** `endings build`: makes all ending tables that are not there. */
export async function endings(action: string | undefined, pieces = MOST_PIECES): Promise<number> {
  if (action !== 'build') throw usageError('Say what: ./bektra endings build [--pieces 3|4]');
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

/** Positions that a thread solves in a second, about: to say how long it is going to take. */
const RATE = 2_000_000;
/** Positions beyond which nothing is begun: some hours. */
const MOST_POSITIONS = 2e10;

/** `ending --prove`: solves what can be reached from a position, unless tables have it. */
async function prove(text: string): Promise<void> {
  const position = positionOf(text);
  const folder = endingsFolder();
  const tables = new EndingFiles(folder);
  const isKnown = !position || valueOf(position, tables.look) !== null;
  tables.close();
  if (isKnown) return;
  const place = position.castling === 0 ? placeIn(position) : null;
  if (place === null || place === 'kings alone')
    throw new CommandError(
      'Out of reach: up to six pieces can be proved, and nobody may still castle.',
      EXIT.problems,
    );
  const threads = availableParallelism();
  const reach = reachOf([place.slice], folder, threads);
  if (!reach || reach.positions > MOST_POSITIONS || reach.bytes > totalmem())
    throw new CommandError(
      `Out of reach${reach ? `: ${(reach.positions / 1e9).toFixed(1)} billion positions, ${(reach.bytes / 1e9).toFixed(1)} GB of memory` : ''}. A later position, with fewer pieces or pawns, may be within reach.`,
      EXIT.problems,
    );
  const minutes = reach.positions / RATE / threads / 60;
  complain(
    `${reach.slices.length} ${reach.slices.length === 1 ? 'slice' : 'slices'}, ${(reach.positions / 1e6).toFixed(0)} million positions: about ${minutes < 1 ? 'a minute' : `${Math.ceil(minutes)} minutes`}, ${(reach.bytes / 1e9).toFixed(1)} GB of memory at most. What is done stays when it is stopped.`,
  );
  const stop = new AbortController();
  process.once('SIGINT', () =>
    stop.abort(new CommandError('Stopped; run it again to go on.', EXIT.problems)),
  );
  let told = 0;
  await proveSlices(ENDING_SOLVER, reach, {
    folder,
    threads,
    signal: stop.signal,
    onProgress: (share, { key }) => {
      const percent = Math.floor(100 * share);
      if (percent < told + 5) return;
      told = percent;
      complain(`${percent} % (${key})`);
    },
  });
}

function positionOf(text: string): ChessPosition | null {
  try {
    return kindOfPosition(text) === 'chess' ? chess.start(text) : null;
  } catch (error) {
    if (error instanceof PositionError) return null;
    throw error;
  }
}

/** What is said of a value: its result, and how far the mate is. */
const toldOf = (exact: Exact): { result: Exact['result']; distance?: number } =>
  exact.result === 'draw' ? { result: 'draw' } : { result: exact.result, distance: exact.plies };

const OTHER = { win: 'loss', loss: 'win', draw: 'draw' } as const;

/** `ending`: what a position is worth with best play, and each of its moves. */
export async function ending(
  said: string | undefined,
  { json = false, prove: proves = false }: Options,
): Promise<number> {
  if (proves && said !== undefined && said !== '-') await prove(said).catch(sayDamage);
  const tables = new EndingFiles(endingsFolder());
  const asked = eachPosition(said, json, ({ text, ruleset }) => {
    const isChess = ruleset.kind === 'chess';
    const position = isChess ? chess.start(text) : null;
    const value = position && valueOf(position, tables.look);
    if (!position || value === null) {
      if (json) return print(JSON.stringify({ position: text, result: 'unknown', moves: [] }));
      return print(
        isChess
          ? 'unknown: no table has it. ./bektra endings build makes those of up to four pieces, --prove solves this one.'
          : 'unknown: there are ending tables for chess alone.',
      );
    }
    const moves = (movesOf(position, tables.look) ?? []).map(({ move, behind }) => {
      const { result, ...rest } = toldOf(readValue(behind));
      return { move: chess.code(move), result: OTHER[result], ...rest };
    });
    const answer = { position: text, ...toldOf(readValue(value)), moves };
    if (json) return print(JSON.stringify(answer));
    const words = ({ result, distance }: { result: string; distance?: number }): string =>
      distance === undefined ? result : `${result}, mate in ${distance} plies`;
    print(words(answer));
    for (const one of moves) print(`${one.move}\t${words(one)}`);
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
