import { limitProblem, ReadError } from '../game/problem';
import type { GameRecord } from '../game/record';
import type { GameKind } from '../game/ruleset';
import { mainLine, TreeBuilder, ROOT } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { nearbyText } from '../game/nearby';
import { oneByLine, readPlaced, type LineFormat } from './line-stream';

/** One position a line, as FEN or SFEN, each with the moves that follow the word `moves`, if any. */
export const positionLines = (kind: GameKind): LineFormat => ({
  cutter: oneByLine,
  read: ([line]) => readPlaced(line!, (text) => readPositionLine(text, kind)),
});

function readPositionLine(line: string, kind: GameKind): GameRecord {
  const ruleset = rulesetOf(kind);
  const words = [...line.matchAll(/\S+/g)];
  const isWord = (index: number, word: string): boolean => words[index]?.[0] === word;
  let first = isWord(0, 'position') ? 1 : 0;
  if (isWord(first, 'fen')) first++;
  const at = words.findIndex((_, index) => index > first && isWord(index, 'moves'));
  const setup = words.slice(first, at < 0 ? undefined : at).map(([word]) => word);
  let position = ruleset.start(setup.join(' ') === 'startpos' ? undefined : setup.join(' '));
  const tree = new TreeBuilder(kind, ruleset.write(position));
  let node = ROOT;
  for (const { 0: code, index } of at < 0 ? [] : words.slice(at + 1)) {
    const move = ruleset.parseCode(code);
    if (move === null || !ruleset.isLegal(position, move))
      throw new ReadError({
        code: 'move.illegal',
        params: {
          move: code.slice(0, 40),
          number: String(tree.size),
          position: ruleset.write(position),
          nearby: nearbyText(ruleset, position, code),
        },
        place: { line: 0, column: index + 1 },
      });
    const limit = tree.fullAt(node);
    if (limit)
      throw new ReadError({ ...limitProblem(limit), place: { line: 0, column: index + 1 } });
    node = tree.add(node, move);
    position = ruleset.play(position, move);
  }
  return { tree: tree.build(), tags: [], result: '*', end: null };
}

/** Writes the start of a game and, where it has moves, the word `moves` and its main line. */
export function writePositionLine({ tree }: GameRecord): string {
  const { code } = rulesetOf(tree.kind);
  const moves = mainLine(tree).map(({ move }) => code(move));
  return `${tree.start}${moves.length > 0 ? ` moves ${moves.join(' ')}` : ''}\n`;
}
