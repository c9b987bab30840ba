import type { Move } from './move';
import type { MoveReading, Position, Ruleset } from './ruleset';

/**
 * Reads a move as a person types it; what could mean two moves is asked about.
 * @param previous the move before; null where there is none
 */
export const readMoveText = (
  ruleset: Ruleset,
  position: Position,
  text: string,
  previous: Move | null = null,
): MoveReading => ruleset.readText(position, text.trim(), previous, 'typed');

/** Numbers, dots and results between moves. */
const FILLER = /^(?:\d+[.…]*|[.…]+|1-0|0-1|1\/2-1\/2|\*)$/;

/**
 * Reads a list of moves, with or without numbers; null where it is none or one of them is not legal.
 * @param previous the move before the first, for 同; null where there is none
 */
export function readMoveList(
  ruleset: Ruleset,
  start: Position,
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
    const reading = ruleset.readText(position, word, moves.at(-1) ?? previous, 'moves');
    if (!('move' in reading)) return null;
    moves.push(reading.move);
    position = ruleset.play(position, reading.move);
  }
  return moves.length > 0 ? moves : null;
}
