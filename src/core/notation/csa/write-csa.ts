import { tagOf, type GameRecord, type Tag } from '../../game/record';
import type { Score } from '../../game/score';
import { readTimeControl, writeCsaTimeControl } from '../../game/time-control';
import { mainLine, nodeOf, ROOT, type GameNode } from '../../game/tree';
import { squareAt } from '../../shogi/board-geometry';
import { SHOGI_START } from '../../shogi/handicaps';
import { GOLD, PAWN, sideOf, typeOf } from '../../shogi/pieces';
import type { ShogiPosition } from '../../shogi/position';
import { commandsOf } from '../comment-commands';
import { CSA_ENDS, writeStatedResult } from '../kif/ends';
import { readSfen } from '../sfen/sfen';
import { SHOGI_DIALECT } from '../shogi-dialect';
import { writeStartTime } from '../start-time';
import { writeCsaMove } from './csa-move';
import { CSA_MATE, CSA_NAMES } from './csa-pieces';

/** Writes the main line of a shogi game as CSA, version 2.2, or 3 where times have fractions. */
export function writeCsa(record: GameRecord): string {
  const { tree, tags } = record;
  const line = mainLine(tree);
  const position = readSfen(tree.start);
  const version = line.some(({ spent }) => spent !== undefined && spent % 1000 !== 0) ? 3 : 2.2;
  const lines = ["'CSA encoding=UTF-8", `V${version === 3 ? '3.0' : '2.2'}`];
  for (const [name, sign] of [
    ['Black', '+'],
    ['White', '-'],
  ] as const) {
    const player = tagOf(tags, name);
    if (player !== undefined) lines.push(`N${sign}${oneLine(player)}`);
  }
  lines.push(...tagLines(tags, version), ...boardLines(tree.start, position));
  lines.push(position.side === 0 ? '+' : '-', ...annotationLines(nodeOf(tree, ROOT)));
  for (const node of line) {
    lines.push(writeCsaMove(position, node.move));
    position.make(node.move);
    if (node.spent !== undefined) lines.push(`T${node.spent / 1000}`);
    lines.push(...annotationLines(node));
  }
  const end = CSA_ENDS.write(record, position.side) ?? foulOf(record);
  const stated = writeStatedResult(record);
  if (end) lines.push(end);
  else if (stated) lines.push(`'*${stated}`);
  return `${lines.join('\n')}\n`;
}

/** A foul of the side that is not to move has a word of its own. */
function foulOf({ result, end }: GameRecord): string | null {
  if (end !== 'illegal move') return null;
  return result === '0-1' ? '%+ILLEGAL_ACTION' : result === '1-0' ? '%-ILLEGAL_ACTION' : null;
}

const oneLine = (text: string): string => text.replace(/[\r\n]+/g, ' ');

function tagLines(tags: readonly Tag[], version: number): string[] {
  const lines: string[] = [];
  const start = writeStartTime(tagOf(tags, 'Date'), tagOf(tags, 'Time'));
  for (const { name, value } of tags) {
    const text = oneLine(value);
    if (name === 'Event' || name === 'Site' || name === 'Opening')
      lines.push(`$${name.toUpperCase()}:${text}`);
    else if (name === 'Date' && start !== null) lines.push(`$START_TIME:${start}`);
    else if (name === 'TimeControl') lines.push(timeLine(text, version));
    else if (/^\$[A-Z_+-]+$/.test(name)) lines.push(`${name}:${text}`);
  }
  return lines;
}

function timeLine(text: string, version: number): string {
  const control = readTimeControl(text);
  if (version === 2.2 && (control === null || /^\d+:\d\d\+\d+$/.test(text)))
    return `$TIME_LIMIT:${text}`;
  return `$TIME:${control === null ? text : writeCsaTimeControl(control)}`;
}

function boardLines(start: string, position: ShogiPosition): string[] {
  if (start === SHOGI_START) return ['PI'];
  const lines: string[] = [];
  for (let rank = 1; rank <= 9; rank++) {
    let row = `P${rank}`;
    for (let file = 9; file >= 1; file--) {
      const piece = position.board[squareAt(file, rank)]!;
      row += piece === 0 ? ' * ' : (sideOf(piece) === 0 ? '+' : '-') + CSA_NAMES[typeOf(piece)];
    }
    lines.push(row);
  }
  for (const side of [0, 1] as const) {
    let held = '';
    for (let type = GOLD; type >= PAWN; type--)
      held += `00${CSA_NAMES[type]}`.repeat(position.hands[side][type]!);
    if (held !== '') lines.push(`P${side === 0 ? '+' : '-'}${held}`);
  }
  return lines;
}

const writeCsaScore = (score: Score): number =>
  score.kind === 'cp' ? score.cp : (CSA_MATE - score.plies) * (score.winner === 0 ? 1 : -1);

function annotationLines(node: GameNode): string[] {
  const lines: string[] = [];
  const extras = [...(node.extras ?? [])];
  const { evaluation, ...rest } = node;
  if (evaluation) {
    const at = extras.findIndex((extra) => extra.startsWith("'** "));
    const [moves] = at >= 0 ? extras.splice(at, 1) : [];
    lines.push(`'** ${writeCsaScore(evaluation.score)}${moves ? moves.slice(3) : ''}`);
    if (evaluation.depth !== undefined) lines.push(`'*[%depth ${evaluation.depth}]`);
  }
  for (const command of commandsOf(rest, SHOGI_DIALECT)) lines.push(`'*${command}`);
  for (const extra of extras) lines.push(extra.startsWith("'") ? extra : `'*${oneLine(extra)}`);
  for (const text of node.comment?.split('\n') ?? []) lines.push(`'*${text}`);
  return lines;
}
