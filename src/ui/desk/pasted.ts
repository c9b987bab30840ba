import type { GameRecord } from '@/core/game/record';
import type { GameKind, Position } from '@/core/game/ruleset';
import type { GameTree } from '@/core/game/tree';
import type { Problem } from '@/core/game/problem';
import { formatOfText, readGames } from '@/core/notation/formats';
import { readContinuation } from '@/core/notation/read-continuation';
import { isRead } from '@/core/notation/reading';

/** What a pasted text that is no list of moves turns out to be. */
export type Pasted =
  | { continuation: GameTree }
  | { position: { kind: GameKind; start: string } }
  | { game: GameRecord }
  | { problem: Pick<Problem, 'code' | 'params'> };

/** Reads a text that was pasted where a game stands at a position. */
export function readPasted(kind: GameKind, position: Position, text: string): Pasted {
  const continuation = readContinuation(kind, position, text);
  if (continuation) return { continuation };
  const format = formatOfText(text);
  const reading = format && [...readGames(text, format)][0];
  if (!reading) return { problem: { code: 'file.format', params: {} } };
  if (!isRead(reading)) return { problem: reading.problem };
  const { tree } = reading.record;
  if (tree.nodes.size === 1) return { position: { kind: tree.kind, start: tree.start } };
  return { game: reading.record };
}
