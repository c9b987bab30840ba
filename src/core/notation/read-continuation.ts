import type { ShogiPosition } from '../shogi/position';
import type { GameKind, Position } from '../game/ruleset';
import type { GameTree } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { readGames } from './formats';
import { writeDiagram } from './kif/board-diagram';
import { isRead } from './reading';

/** A line with tags or headers is a game of its own. */
const HEADER = /^\s*\[\s*[A-Za-z0-9_]+\s*"|^(?:手合割|開始日時|棋戦|先手|後手|下手|上手)[：:]/m;

const HEADERS: Record<GameKind, (position: Position) => string> = {
  chess: (position) => `[SetUp "1"]\n[FEN "${rulesetOf('chess').write(position)}"]\n\n`,
  shogi: (position) => `手合割：その他\n${writeDiagram(position as unknown as ShogiPosition)}`,
};

/**
 * Reads moves that go on from a position, with variations, comments and symbols as PGN or KI2 have them: a tree that starts there, or
 * null where the text is none.
 */
export function readContinuation(
  kind: GameKind,
  position: Position,
  text: string,
): GameTree | null {
  if (HEADER.test(text)) return null;
  const format = kind === 'chess' ? 'pgn' : 'ki2';
  const readings = [...readGames(`${HEADERS[kind](position)}${text}\n`, format)];
  const [reading] = readings;
  if (readings.length !== 1 || !reading || !isRead(reading)) return null;
  return reading.record.tree.nodes.size > 1 ? reading.record.tree : null;
}
