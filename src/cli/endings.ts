import { join } from 'node:path';
import { availableParallelism } from 'node:os';
import { chess } from '@/core/chess/ruleset';
import { movesOf, readValue, valueOf, type Exact } from '@/core/endings/exact';
import { buildEndings } from '@/engine/hosts/ending-build';
import { DamagedEnding, EndingFiles } from '@/engine/hosts/ending-files';
import { settings } from '@/server/settings';
import { eachPosition } from './each-position';
import { ENDING_SOLVER } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import { print } from './print';

/** Ending tables that every part of the app shares. */
const folder = (): string => join(settings().data, 'endings');

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
    folder: folder(),
    pieces,
    threads: availableParallelism(),
    signal: stop.signal,
    onProgress: (share, set) => {
      const percent = Math.floor(100 * share);
      if (percent < told + 5) return;
      told = percent;
      print(`${percent} % (${set})`);
    },
  });
  const seconds = (performance.now() - started) / 1000;
  print(
    built.sets === 0
      ? `All ending tables are there: ${folder()}`
      : `${built.sets} ${built.sets === 1 ? 'set' : 'sets'}, ${built.positions.toLocaleString('en')} positions in ${seconds.toFixed(1)} s, ${(built.bytes / 1e6).toFixed(1)} MB in ${folder()}`,
  );
  return EXIT.done;
}

/** What is said of a value: its result, and how far the mate is. */
const toldOf = (exact: Exact): { result: Exact['result']; distance?: number } =>
  exact.result === 'draw' ? { result: 'draw' } : { result: exact.result, distance: exact.plies };

const OTHER = { win: 'loss', loss: 'win', draw: 'draw' } as const;

/** `ending`: what a position is worth with best play, and each of its moves. */
export async function ending(said: string | undefined, json: boolean): Promise<number> {
  const tables = new EndingFiles(folder());
  const asked = eachPosition(said, json, ({ text, ruleset }) => {
    const isChess = ruleset.kind === 'chess';
    const position = isChess ? chess.start(text) : null;
    const value = position && valueOf(position, tables.look);
    if (!position || value === null) {
      if (json) return print(JSON.stringify({ position: text, result: 'unknown', moves: [] }));
      return print(
        isChess
          ? 'unknown: no table has it. ./bektra endings build makes those of up to four pieces.'
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
  return asked.catch((error: unknown) => {
    if (!(error instanceof DamagedEnding)) throw error;
    throw new CommandError(
      `${error.message} is damaged; ./bektra endings build makes it anew.`,
      EXIT.failed,
    );
  });
}
