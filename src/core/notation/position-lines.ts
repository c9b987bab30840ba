import { LIMITS, ReadError } from '../game/problem';
import type { GameRecord } from '../game/record';
import { PositionError, type GameKind } from '../game/ruleset';
import { mainLine, TreeBuilder, ROOT } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { nearbyMoves } from './nearby';
import type { Reading } from './reading';

/** Reads one position a line, as FEN or SFEN, each with the moves that follow the word `moves`, if any. */
export function* readPositionLines(text: string, kind: GameKind): Generator<Reading> {
  let game = 0;
  for (const [index, line] of text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\n|\r/)
    .entries()) {
    if (line.trim() === '' || line.startsWith('#')) continue;
    game++;
    const place = { line: index + 1, column: 1, game };
    try {
      yield { record: readPositionLine(line, kind), line: index + 1 };
    } catch (error) {
      if (error instanceof PositionError)
        yield { problem: { code: error.code, params: error.params, place } };
      else if (error instanceof ReadError)
        yield { problem: { ...error.problem, place: { ...error.problem.place, ...place } } };
      else throw error;
    }
  }
}

function readPositionLine(line: string, kind: GameKind): GameRecord {
  const ruleset = rulesetOf(kind);
  const [, setup, moves] = /^\s*(?:position\s+)?(?:fen\s+)?(.*?)(?:\s+moves\s+(.*))?$/.exec(line)!;
  let position = ruleset.start(setup!.trim() === 'startpos' ? undefined : setup!);
  const tree = new TreeBuilder(kind, ruleset.write(position));
  let node = ROOT;
  for (const code of moves?.trim().split(/\s+/) ?? []) {
    const move = ruleset.parseCode(code);
    if (move === null || !ruleset.isLegal(position, move))
      throw new ReadError({
        code: 'move.illegal',
        params: {
          move: code.slice(0, 40),
          number: String(tree.size),
          position: ruleset.write(position),
          nearby: nearbyMoves(ruleset, position, code).join(', '),
        },
        place: { line: 0, column: line.indexOf(code) + 1 },
      });
    if (tree.size >= LIMITS.nodes)
      throw new ReadError({
        code: 'limit.nodes',
        params: { most: LIMITS.nodes },
        place: { line: 0, column: 1 },
      });
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
