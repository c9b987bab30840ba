import type { Move } from '@/core/game/move';
import type { Position, Ruleset, WritingName } from '@/core/game/ruleset';
import { walk } from '@/core/game/walk';

/**
 * A move as the reader likes to see it.
 * @param previous the move before, for 同; null where there is none
 */
export function moveText(
  ruleset: Ruleset,
  position: Position,
  move: Move,
  previous: Move | null,
  notation: WritingName,
): string {
  return ruleset.textIn(notation, position, move, previous);
}

/** `22.`, `22…` or the ply's number. */
export function numberText(ruleset: Ruleset, position: Position): string {
  const number = ruleset.moveNumber(position);
  if (ruleset.numbering === 'ply') return `${number}`;
  return `${number}${ruleset.side(position) === 0 ? '.' : '…'}`;
}

export interface LineMove {
  code: string;
  text: string;
  /** Its number, where one is to be written before it. */
  number: string | null;
  /** The position after it. */
  position: Position;
  move: Move;
}

/** A line of UCI or USI moves from a position, with what is to be shown of each; ends at a move that does not fit. */
export function readLine(
  ruleset: Ruleset,
  start: Position,
  codes: readonly string[],
  previous: Move | null,
  notation: WritingName,
): LineMove[] {
  return walk(ruleset, start, codes).map(({ code, move, before, after }, index, walked) => {
    const numbered = index === 0 || (ruleset.numbering === 'move' && ruleset.side(before) === 0);
    const last = walked[index - 1]?.move ?? previous;
    return {
      code,
      text: moveText(ruleset, before, move, last, notation),
      number: numbered ? numberText(ruleset, before) : null,
      position: after,
      move,
    };
  });
}

/** A line as it is printed: `12. Nf3 d5 13. O-O`. */
export const lineText = (line: readonly LineMove[]): string =>
  line.map(({ number, text }) => (number === null ? text : `${number} ${text}`)).join(' ');
