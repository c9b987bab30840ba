import { NULL_MOVE, toOf } from '../../game/move';
import type { GameRecord } from '../../game/record';
import { mainLine } from '../../game/tree';
import { handicapOf } from '../../shogi/handicaps';
import { tagCommand } from '../comment-commands';
import { writeDiagram } from '../kif/board-diagram';
import { writeHeaders } from '../kif/headers';
import { writeJapanese } from '../../shogi/japanese';
import { annotationLines, writeSummary } from '../kif/write-kif';
import { readSfen } from '../../shogi/sfen';
import { nodeOf, ROOT } from '../../game/tree';

const MOVES_A_LINE = 6;

/** Writes the main line of a shogi game as KI2, with its comments. */
export function writeKi2(record: GameRecord): string {
  const { tree, tags } = record;
  const position = readSfen(tree.start);
  const handicap = handicapOf(tree.start);
  const lines = handicap
    ? [`手合割：${handicap.kif}`]
    : ['手合割：その他', ...writeDiagram(position).trimEnd().split('\n')];
  const headers = writeHeaders(tags, position.side === 1);
  lines.push(...headers.lines, '', ...headers.others.map((tag) => `*${tagCommand(tag)}`));
  lines.push(...annotationLines(nodeOf(tree, ROOT)));
  let row: string[] = [];
  let previous = -1;
  const flush = (): void => {
    if (row.length > 0) lines.push(row.join(' '));
    row = [];
  };
  for (const node of mainLine(tree)) {
    const sign = position.side === 0 ? '▲' : '△';
    row.push(sign + writeJapanese(position, node.move, previous));
    previous = node.move === NULL_MOVE ? -1 : toOf(node.move);
    position.make(node.move);
    const remarks = annotationLines(node);
    if (remarks.length > 0 || row.length === MOVES_A_LINE) flush();
    lines.push(...remarks);
  }
  flush();
  const summary = writeSummary(record, mainLine(tree).length);
  if (summary) lines.push(summary);
  return `${lines.join('\n')}\n`;
}
