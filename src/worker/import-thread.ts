import { parentPort } from 'node:worker_threads';
import { LIMITS, limitProblem, ReadError, type Problem } from '@/core/game/problem';
import type { GameRecord } from '@/core/game/record';
import type { GameKind } from '@/core/game/ruleset';
import { mainLine } from '@/core/game/tree';
import { formatKind, formatOfName, formatOfText, type Format } from '@/core/notation/formats';
import { problemOfFile, readBytes, type Read } from '@/core/notation/read-bytes';
import { isRead, type Reading } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { gamesIn, type ImportPart } from '@/server/import-part';
import { prepareBaseGame } from '@/server/prepared-base-game';
import { prepareGame } from '@/server/prepared-game';
import { filesIn, UnpackError, type PackedFile } from './unpack';

/**
 * What the thread is told: to read a file from behind so many games; then the pieces that it asks for, null behind the last, and `taken`
 * for each part.
 */
export type ImportAsked = { read: ReadAsked } | { piece: Uint8Array | null } | 'taken';
export interface ReadAsked {
  name: string;
  skip: number;
  most: number;
  /** The game whose base it goes into; null: it goes into the library. */
  base: GameKind | null;
}

/** What it answers. */
export type ImportTold =
  'piece' | { part: ImportPart } | { done: { games: number } } | { failed: Problem };

/** Games of one part, and milliseconds after which one is told with fewer, so that progress is seen. */
const PART = 500;
const PART_MS = 500;
/** Parts that may wait to be taken: storing one takes now longer, now shorter than reading one, and neither is to wait for the other. */
const AHEAD = 2;

/** The ordinary start without moves, names or words is nothing that anybody meant to keep; a position is. */
const isWorthKeeping = ({ tree, tags }: GameRecord): boolean =>
  mainLine(tree).length > 0 || tags.length > 0 || tree.start !== rulesetOf(tree.kind).startText;

const port = parentPort!;
const tell = (told: ImportTold): void => port.postMessage(told);

/** Who waits for the next piece, and for a part to be taken. */
let onPiece: (piece: Uint8Array | null) => void = () => undefined;
let onTaken: () => void = () => undefined;
let waiting = 0;

/** What is sent, piece by piece as it is asked for. */
async function* sentPieces(): AsyncGenerator<Uint8Array> {
  for (;;) {
    const sent = new Promise<Uint8Array | null>((resolve) => (onPiece = resolve));
    tell('piece');
    const piece = await sent;
    if (piece === null) return;
    yield piece;
  }
}

/** The games of one file; one of an archive that can't be read is told of, and does not hold back those beside it. */
async function* readingsOf(
  file: PackedFile,
): AsyncGenerator<Read | { reading: Reading; format: null }> {
  try {
    yield* readBytes(file.bytes, (beginning) => formatOf(file.name, beginning));
  } catch (error) {
    if (!(error instanceof ReadError) || !file.isAmong) throw error;
    const problem = problemOfFile('file.leftOut', { name: file.name });
    yield { reading: { problem }, format: null };
    // what is left of it is passed over
    for await (const _ of file.bytes);
  }
}

/** What a file is written in, by its name or how it begins. */
function formatOf(name: string, beginning: string): Format | null {
  const named = formatOfName(name);
  const kind = named ? formatKind(named) : null;
  const seen = formatOfText(beginning);
  return seen && (named === null || formatKind(seen) !== kind) ? seen : (named ?? seen);
}

const emptyPart = (): ImportPart => ({ games: [], baseGames: [], failures: [], notes: [] });

async function read({ name, skip, most, base }: ReadAsked): Promise<void> {
  let seen = 0;
  let part = emptyPart();
  let started = performance.now();
  const tellPart = async (): Promise<void> => {
    if (gamesIn(part) === 0) return;
    while (waiting === AHEAD) await new Promise<void>((resolve) => (onTaken = resolve));
    waiting++;
    tell({ part });
    part = emptyPart();
    started = performance.now();
  };
  try {
    for await (const file of filesIn(name, sentPieces(), most))
      for await (const { reading, format } of readingsOf(file)) {
        if (++seen > LIMITS.gamesPerFile)
          throw new ReadError(
            problemOfFile('limit.gamesPerFile', limitProblem('gamesPerFile').params),
          );
        if (seen <= skip) continue;
        take(part, reading, format, seen, base);
        if (gamesIn(part) >= PART || performance.now() - started >= PART_MS) await tellPart();
      }
    await tellPart();
    tell(seen === 0 ? { failed: problemOfFile('file.noGames') } : { done: { games: seen } });
  } catch (error) {
    const problem = problemOf(error);
    if (!problem) throw error;
    // what came before stays
    await tellPart();
    tell({
      failed: seen === 0 ? problem : { ...problem, place: { ...problem.place, game: seen + 1 } },
    });
  }
}

function problemOf(error: unknown): Problem | null {
  if (error instanceof ReadError) return error.problem;
  return error instanceof UnpackError ? problemOfFile(error.code) : null;
}

function take(
  part: ImportPart,
  reading: Reading,
  format: Format | null,
  game: number,
  base: GameKind | null,
): void {
  if (!isRead(reading)) {
    const { problem, text = null } = reading;
    part.failures.push({
      problem: { ...problem, place: { game, ...problem.place } },
      text,
      format,
    });
    return;
  }
  const refuse = (code: string): void => {
    const place = { line: reading.line, column: 1, game };
    part.failures.push({ problem: { ...problemOfFile(code), place }, text: null, format });
  };
  const { record } = reading;
  if (!isWorthKeeping(record)) return refuse('game.empty');
  if (base === null) part.games.push(prepareGame(record));
  else if (record.tree.kind === base) part.baseGames.push(prepareBaseGame(record));
  else return refuse('game.otherKind');
  part.notes.push(...(reading.notes ?? []));
}

port.on('message', (asked: ImportAsked) => {
  if (asked === 'taken') {
    waiting--;
    onTaken();
  } else if ('piece' in asked) onPiece(asked.piece);
  else void read(asked.read);
});
