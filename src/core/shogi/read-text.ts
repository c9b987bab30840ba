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
import { nearbyMoves } from '../game/nearby';
import type { MoveReading, Ruleset } from '../game/ruleset';
import { MOVE_PATTERN, movesWritten, readSquare, writeJapanese } from './japanese';
import type { ShogiPosition } from './position';

const MOST_NEARBY = 6;

/**
 * Reads a move as a person writes it: USI, Japanese (`76歩`, `同銀`), or western notation with or without `-` and `x`, in any case of
 * letters where that is clear. A move that could promote has to say whether it does, unless others follow it.
 */
export function readShogiText(
  ruleset: Ruleset<ShogiPosition>,
  position: ShogiPosition,
  written: string,
  previous: Move | null,
  among: 'typed' | 'moves',
): MoveReading {
  const reading = readAsWritten(ruleset, position, written, previous);
  if (among === 'moves' || !('move' in reading) || /[=+成]/.test(written)) return reading;
  const promoted = otherPromotion(ruleset, position, reading.move);
  if (promoted === null) return reading;
  const both = [promoted, reading.move].map((move) =>
    /[\u3040-\u9fff]/.test(written)
      ? writeJapanese(position, move, targetOf(previous))
      : ruleset.text(position, move),
  );
  return { problem: 'ambiguous', nearby: both };
}

/** The promotion that a move declines without saying so. */
function otherPromotion(
  ruleset: Ruleset<ShogiPosition>,
  position: ShogiPosition,
  move: Move,
): Move | null {
  if (dropOf(move) !== 0 || promotionOf(move) !== 0) return null;
  const promoted = boardMove(fromOf(move), toOf(move), 1);
  return ruleset.isLegal(position, promoted) ? promoted : null;
}

/** A move that could promote and does not say so is one that does not. */
function readAsWritten(
  ruleset: Ruleset<ShogiPosition>,
  position: ShogiPosition,
  written: string,
  previous: Move | null,
): MoveReading {
  const code = ruleset.parseCode(written);
  if (code !== null && ruleset.isLegal(position, code)) return { move: code };
  return (
    readJapanese(position, written, targetOf(previous)) ?? readLoosely(ruleset, position, written)
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

/** Compares with the notation of every legal move, the joints between its parts left out. */
function readLoosely(
  ruleset: Ruleset<ShogiPosition>,
  position: ShogiPosition,
  written: string,
): MoveReading {
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
    nearby: [...new Set([...alike, ...nearbyMoves(ruleset, position, written)])].slice(
      0,
      MOST_NEARBY,
    ),
  };
}

/** The notation without the origin. */
const shortText = (ruleset: Ruleset<ShogiPosition>, position: ShogiPosition, move: Move): string =>
  ruleset.text(position, move).replace(/^(\+?[A-Z])[1-9][a-i](?=[-x])/, '$1');
