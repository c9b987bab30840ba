import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { isCertain, MOST_MEN, type EndingAnswer } from '@/contract/endings';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { PositionError } from '@/core/game/ruleset';
import {
  comesTooLate,
  menOn,
  movesOf,
  OPEN,
  readValue,
  valueOf,
  worthOf,
  worthOfMoves,
  type Exact,
  type KnownEndings,
  type Look,
  type Result,
} from '@/core/endings/exact';
import { setsUpTo } from '@/core/endings/sets';
import { kindOfPosition } from '@/core/rulesets';
import { DamagedEnding, endingFile, EndingFiles } from '@/engine/hosts/ending-files';
import { EndingResults } from '@/engine/hosts/ending-results';
import { logger } from './log';
import { settings } from './settings';

/** Where ending tables are kept. */
export const endingsFolder = (): string => join(settings().data, 'endings');

/** One set a process. */
const store = globalThis as { bektraEndings?: EndingFiles };
const tables = (): EndingFiles => (store.bektraEndings ??= openTables());

/** The tables of the data folder, and the results that ship with the app. */
export function openTables(): EndingFiles {
  const { root, endingPieces } = settings();
  const shipped = join(root, 'dist/engine/ending-results.bin');
  return new EndingFiles(endingsFolder(), new EndingResults(shipped, endingPieces).look);
}

/** What files say; one that is damaged is taken away, for the worker to make it anew. */
function unlessDamaged<T>(ask: (files: EndingFiles) => T): T | null {
  try {
    return ask(tables());
  } catch (error) {
    if (!(error instanceof DamagedEnding)) throw error;
    logger('endings').warn({ err: error }, 'an ending table is made anew');
    tables().remove(error);
    return null;
  }
}

/** The value of a place by the tables there are. */
export const lookUpEnding: Look = (place) => unlessDamaged((files) => files.look(place));

/** The same for what proofs know in part. */
const known: KnownEndings = {
  look: lookUpEnding,
  lookInTables: (place) => unlessDamaged((files) => files.lookInTables(place)),
  bounds: (place) => unlessDamaged((files) => files.bounds(place)),
};

/** What a position is worth, and its moves, as far as is known; null where it is none of chess. @param text FEN */
export function endingAt(text: string): EndingAnswer | null {
  const position = chessPositionOf(text);
  if (!position) return null;
  const nothing = { worth: null, made: null, comesTooLate: false, moves: [] };
  const men = menOn(position);
  if (men > MOST_MEN) return { ...nothing, tables: 'none' };
  const worth = worthOf(position, known);
  const isOutside = men > settings().endingPieces;
  // results alone are known before there are tables
  const isComing =
    !isOutside && position.castling === 0 && valueOf(position, known.lookInTables) === null;
  const tables = isComing
    ? ({ tables: 'coming', made: tablesMade() } as const)
    : ({ tables: 'there', made: null } as const);
  if (worth.least === OPEN.least && worth.most === OPEN.most)
    return { ...nothing, ...tables, ...(isOutside && { tables: 'none' }) };
  return {
    ...tables,
    worth,
    comesTooLate:
      worth.plies !== null &&
      !worth.isAtMost &&
      comesTooLate(position, { result: worth.least, plies: worth.plies } as Exact, lookUpEnding),
    moves: worthOfMoves(position, known).map(({ move, worth: after }) => ({
      move: chess.code(move),
      ...after,
      replies:
        after.most === 'loss' ? winningReplies(chess.play(position, move), lookUpEnding) : null,
    })),
  };
}

/** Of the tables that are to be there, how many are. */
function tablesMade(): { done: number; of: number } {
  const sets = setsUpTo(settings().endingPieces);
  const done = sets.filter((set) => existsSync(endingFile(endingsFolder(), set)));
  return { done: done.length, of: sets.length };
}

/** What a position is surely worth to the side to move; null where that is not known. */
export function resultOf(position: ChessPosition): Result | null {
  const worth = worthOf(position, known);
  return isCertain(worth) ? worth.least : null;
}

/** A chess position; null where the text is none. */
export function chessPositionOf(text: string): ChessPosition | null {
  try {
    return kindOfPosition(text) === 'chess' ? chess.start(text) : null;
  } catch (error) {
    if (error instanceof PositionError) return null;
    throw error;
  }
}

/** How many moves of a position that is won still win; null where that is not known of each. */
const winningReplies = (position: ChessPosition, look: Look): number | null =>
  movesOf(position, look)?.filter(({ behind }) => readValue(behind).result === 'loss').length ??
  null;
