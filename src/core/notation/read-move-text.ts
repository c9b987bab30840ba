import { dropOf, toOf, type Move } from '../game/move';
import type { Ruleset } from '../game/ruleset';
import type { ChessPosition } from '../chess/position';
import { nearbyMoves } from './nearby';
import { readSan } from './san/san';

export type MoveReading =
  { move: Move } | { problem: 'malformed' | 'illegal' | 'ambiguous'; nearby: string[] };

/**
 * Reads a move as a person types it: UCI or USI, SAN (leniently), or western shogi notation with or without `-`, `x`
 * and `=`, in any case of letters where that is clear.
 */
export function readMoveText(ruleset: Ruleset, position: unknown, text: string): MoveReading {
  const written = text.trim();
  const code = ruleset.parseCode(written);
  if (code !== null && ruleset.isLegal(position, code)) return { move: code };
  if (ruleset.kind === 'chess') {
    const reading = readSan(position as ChessPosition, written);
    return 'move' in reading ? reading : { ...reading, nearby: nearby(ruleset, position, written) };
  }
  return readLoosely(ruleset, position, written);
}

/** Numbers, dots and results between moves. */
const FILLER = /^(?:\d+[.…]*|[.…]+|1-0|0-1|1\/2-1\/2|\*)$/;

/** Reads a list of moves, with or without numbers; null where it is none or one of them is not legal. */
export function readMoveList(ruleset: Ruleset, start: unknown, text: string): Move[] | null {
  const moves: Move[] = [];
  let position = start;
  const words = text.split(/\s+/).map((word) => word.replace(/^\d+[.…]+/, ''));
  for (const word of words.filter((part) => part !== '' && !FILLER.test(part))) {
    const reading = readMoveText(ruleset, position, word);
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
  const problem =
    fitting.length + board.length > 1
      ? 'ambiguous'
      : /[1-9][a-i]/i.test(written)
        ? 'illegal'
        : 'malformed';
  const target = /[1-9][a-i]/i.exec(written)?.[0].toLowerCase();
  const alike = legal
    .filter(
      (move) => target !== undefined && ruleset.code(move).includes(target) && toOf(move) >= 0,
    )
    .map((move) => ruleset.text(position, move));
  return {
    problem,
    nearby: [...new Set([...alike, ...nearby(ruleset, position, written)])].slice(0, 6),
  };
}

/** The notation without the origin. */
const shortText = (ruleset: Ruleset, position: unknown, move: Move): string =>
  ruleset.text(position, move).replace(/^(\+?[A-Z])[1-9][a-i](?=[-x])/, '$1');
