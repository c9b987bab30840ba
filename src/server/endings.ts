import { join } from 'node:path';
import { MOST_MEN, type EndingAnswer } from '@/contract/endings';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { PositionError } from '@/core/game/ruleset';
import {
  comesTooLate,
  movesOf,
  readValue,
  valueOf,
  type Exact,
  type Look,
} from '@/core/endings/exact';
import { DamagedEnding, EndingFiles } from '@/engine/hosts/ending-files';
import { logger } from './log';
import { settings } from './settings';

/** Where ending tables are kept. */
export const endingsFolder = (): string => join(settings().data, 'endings');

/** One set a process. */
const store = globalThis as { bektraEndings?: EndingFiles };
const tables = (): EndingFiles => (store.bektraEndings ??= new EndingFiles(endingsFolder()));

/** The value of a place by the tables there are; one that is damaged is taken away, for the worker to make it anew. */
export const lookUpEnding: Look = (place) => {
  try {
    return tables().look(place);
  } catch (error) {
    if (!(error instanceof DamagedEnding)) throw error;
    logger('endings').warn({ err: error }, 'an ending table is made anew');
    tables().remove(error);
    return null;
  }
};

const told = (exact: Exact): { result: Exact['result']; plies: number | null } => ({
  result: exact.result,
  plies: exact.result === 'draw' ? null : exact.plies,
});

const OTHER = { win: 'loss', loss: 'win', draw: 'draw' } as const;

/** What a position is worth, and its moves, as far as there are tables; null where it is none of chess. @param text FEN */
export function endingAt(text: string): EndingAnswer | null {
  const position = positionOf(text);
  if (!position) return null;
  const nothing = { exact: null, comesTooLate: false, moves: [] };
  const men = position.board.reduce((sum, piece) => sum + Number(piece !== 0), 0);
  if (men > MOST_MEN) return { tables: 'none', ...nothing };
  const look = lookUpEnding;
  const value = valueOf(position, look);
  const moves = value === null ? null : movesOf(position, look);
  if (value === null || !moves) {
    const isComing = men <= settings().endingPieces && position.castling === 0;
    const isOutside = men > settings().endingPieces;
    return { tables: isComing ? 'coming' : isOutside ? 'none' : 'there', ...nothing };
  }
  return {
    tables: 'there',
    exact: told(readValue(value)),
    comesTooLate: comesTooLate(position, readValue(value), look),
    moves: moves.map(({ move, behind }) => {
      const { result, plies } = told(readValue(behind));
      return {
        move: chess.code(move),
        result: OTHER[result],
        plies,
        replies: result === 'win' ? winningReplies(chess.play(position, move), look) : null,
      };
    }),
  };
}

function positionOf(text: string): ChessPosition | null {
  try {
    return chess.start(text);
  } catch (error) {
    if (error instanceof PositionError) return null;
    throw error;
  }
}

/** How many moves of a position that is won still win. */
const winningReplies = (position: ChessPosition, look: Look): number =>
  (movesOf(position, look) ?? []).filter(({ behind }) => readValue(behind).result === 'loss')
    .length;
