import { limitProblem, type Problem } from '../game/problem';
import type { GameKind } from '../game/ruleset';
import type { GameTree } from '../game/tree';
import { formatKind, formatOfText, readGames } from '../notation/formats';
import { isRead } from '../notation/reading';
import { joinedLines } from './lines';

/** What a file has to put into a preparation. */
export interface LinesRead {
  lines: GameTree;
  games: number;
  /** Games that could not be read, or begin otherwise than the first. */
  left: number;
}

/** All lines of a file's games that begin as the first that can be read. */
export function readLines(
  text: string,
  kind: GameKind,
): LinesRead | Pick<Problem, 'code' | 'params'> {
  const format = formatOfText(text);
  if (!format || formatKind(format) !== kind) return { code: 'file.format', params: {} };
  const trees: GameTree[] = [];
  let problem: Problem | null = null;
  let left = 0;
  for (const reading of readGames(text, format)) {
    if (
      isRead(reading) &&
      (trees[0]?.start ?? reading.record.tree.start) === reading.record.tree.start
    )
      trees.push(reading.record.tree);
    else {
      left++;
      if (!isRead(reading)) problem ??= reading.problem;
    }
  }
  const [first, ...others] = trees;
  if (!first) return problem ?? { code: 'file.empty', params: {} };
  const lines = joinedLines([first, ...others]);
  return lines ? { lines, games: trees.length, left } : limitProblem('nodes');
}
