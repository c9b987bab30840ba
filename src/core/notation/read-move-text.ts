import {
  boardMove,
  dropOf,
  fromOf,
  promotionOf,
  targetOf,
  toOf,
  type Move,
  type Square,
} from '../game/move';
import type { Ruleset } from '../game/ruleset';
import type { ChessPosition } from '../chess/position';
import type { ShogiPosition } from '../shogi/position';
import { MOVE_PATTERN, movesWritten, readSquare, writeJapanese } from './kif/japanese';
import { nearbyMoves } from './nearby';
import { readSan } from './san/san';

const MOST_NEARBY = 6;

export type MoveReading =
  { move: Move } | { problem: 'malformed' | 'illegal' | 'ambiguous'; nearby: string[] };

/**
 * Reads a move as a person types it: UCI or USI, SAN (leniently), Japanese (`76歩`, `同銀`), or western shogi notation
 * with or without `-` and `x`, in any case of letters where that is clear. A shogi move that could promote has to say whether it does.
 * @param previous the move before, for 同; null where there is none
 */
export function readMoveText(
  ruleset: Ruleset,
  position: unknown,
  text: string,
  previous: Move | null = null,
): MoveReading {
  const reading = readAsWritten(ruleset, position, text, previous);
  const undecided =
    'move' in reading && !/[=+成]/.test(text)
      ? otherPromotion(ruleset, position, reading.move)
      : null;
  if (!('move' in reading) || undecided === null) return reading;
  const both = [undecided, reading.move].map((move) =>
    /[\u3040-\u9fff]/.test(text)
      ? writeJapanese(position as ShogiPosition, move, targetOf(previous))
      : ruleset.text(position, move),
  );
  return { problem: 'ambiguous', nearby: both };
}

/** In shogi, the promotion that a move declines without saying so. */
function otherPromotion(ruleset: Ruleset, position: unknown, move: Move): Move | null {
  if (ruleset.kind === 'chess' || dropOf(move) !== 0 || promotionOf(move) !== 0) return null;
  const promoted = boardMove(fromOf(move), toOf(move), 1);
  return ruleset.isLegal(position, promoted) ? promoted : null;
}

/** As {@link readMoveText}, where a move that could promote and does not say so is one that does not. */
function readAsWritten(
  ruleset: Ruleset,
  position: unknown,
  text: string,
  previous: Move | null,
): MoveReading {
  const written = text.trim();
  const code = ruleset.parseCode(written);
  if (code !== null && ruleset.isLegal(position, code)) return { move: code };
  if (ruleset.kind === 'chess') {
    const reading = readSan(position as ChessPosition, written);
    return 'move' in reading ? reading : { ...reading, nearby: nearby(ruleset, position, written) };
  }
  return (
    readJapanese(position as ShogiPosition, written, targetOf(previous)) ??
    readLoosely(ruleset, position, written)
  );
}

const JAPANESE = new RegExp(`^${MOVE_PATTERN}$`);

/** Null where the text is not Japanese. */
function readJapanese(
  position: ShogiPosition,
  written: string,
  previous: Square,
): MoveReading | null {
  const match = JAPANESE.exec(written);
  if (!match) return null;
  const moves = movesWritten(position, match, previous);
  if (moves.length === 1) return { move: moves[0]! };
  const target = match[1] === undefined ? previous : readSquare(match[1]);
  const alike =
    moves.length > 1 ? moves : position.legalMoves().filter((move) => toOf(move) === target);
  return {
    problem: moves.length > 1 ? 'ambiguous' : 'illegal',
    nearby: alike.slice(0, MOST_NEARBY).map((move) => writeJapanese(position, move, previous)),
  };
}

/** Numbers, dots and results between moves. */
const FILLER = /^(?:\d+[.…]*|[.…]+|1-0|0-1|1\/2-1\/2|\*)$/;

/**
 * Reads a list of moves, with or without numbers; null where it is none or one of them is not legal.
 * @param previous the move before the first, for 同; null where there is none
 */
export function readMoveList(
  ruleset: Ruleset,
  start: unknown,
  text: string,
  previous: Move | null = null,
): Move[] | null {
  const moves: Move[] = [];
  let position = start;
  const words = text
    .replace(/同\s+/g, '同')
    .replace(/[▲△▽▼☗☖]/g, ' ')
    .split(/\s+/)
    .map((word) => word.replace(/^\d+[.…]+/, ''));
  for (const word of words.filter((part) => part !== '' && !FILLER.test(part))) {
    const reading = readAsWritten(ruleset, position, word, moves.at(-1) ?? previous);
    if (!('move' in reading)) return null;
    moves.push(reading.move);
    position = ruleset.play(position, reading.move);
  }
  return moves.length > 0 ? moves : null;
}

const nearby = (ruleset: Ruleset, position: unknown, text: string): string[] =>
  nearbyMoves(ruleset, position, text);

/** Compares with the notation of every legal move, the joints between its parts left out. */
function readLoosely(ruleset: Ruleset, position: unknown, written: string): MoveReading {
  const bare = (text: string): string => text.replace(/[-x='\s]/g, '').toUpperCase();
  const wanted = bare(written);
  const legal = ruleset.moves(position);
  const fitting = legal.filter((move) => bare(ruleset.text(position, move)) === wanted);
  const [only] = fitting;
  if (only !== undefined && fitting.length === 1) return { move: only };
  const board = legal.filter(
    (move) => dropOf(move) === 0 && bare(shortText(ruleset, position, move)) === wanted,
  );
  if (board.length === 1) return { move: board[0]! };
  const several = [...new Set([...fitting, ...board])];
  if (several.length > 1)
    return {
      problem: 'ambiguous',
      nearby: several.slice(0, MOST_NEARBY).map((move) => ruleset.text(position, move)),
    };
  const problem = /[1-9][a-i]/i.test(written) ? 'illegal' : 'malformed';
  const target = /[1-9][a-i]/i.exec(written)?.[0].toLowerCase();
  const alike = legal
    .filter(
      (move) => target !== undefined && ruleset.code(move).includes(target) && toOf(move) >= 0,
    )
    .map((move) => ruleset.text(position, move));
  return {
    problem,
    nearby: [...new Set([...alike, ...nearby(ruleset, position, written)])].slice(0, MOST_NEARBY),
  };
}

/** The notation without the origin. */
const shortText = (ruleset: Ruleset, position: unknown, move: Move): string =>
  ruleset.text(position, move).replace(/^(\+?[A-Z])[1-9][a-i](?=[-x])/, '$1');
