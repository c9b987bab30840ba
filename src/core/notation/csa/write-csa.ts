import { tagOf, type GameRecord, type Tag } from '../../game/record';
import type { Score } from '../../game/score';
import { trimSpaces } from '../../game/text';
import { readTimeControl, writeCsaTimeControl, type TimeControl } from '../../game/time-control';
import { mainLine, nodeOf, ROOT, type GameNode } from '../../game/tree';
import { squareAt } from '../../shogi/board-geometry';
import { SHOGI_START } from '../../shogi/handicaps';
import { GOLD, PAWN, sideOf, typeOf } from '../../shogi/pieces';
import type { ShogiPosition } from '../../shogi/position';
import { commandsOf, remarkCommand, tagCommand, writeWords } from '../comment-commands';
import { CSA_ENDS, writeStatedResult } from '../kif/ends';
import { readSfen } from '../../shogi/sfen';
import { SHOGI_DIALECT } from '../shogi-dialect';
import { writeStartTime } from '../start-time';
import { writeCsaMove } from './csa-move';
import { CSA_MATE, CSA_NAMES, CSA_TAGS } from './csa-pieces';

/** Writes the main line of a shogi game as CSA: version 2.2, or 3 where a time is none that 2.2 can hold. */
export function writeCsa(record: GameRecord): string {
  const { tree, tags } = record;
  const line = mainLine(tree);
  const position = readSfen(tree.start);
  const control = readTimeControl(tagOf(tags, 'TimeControl'));
  const hasFractions = line.some(({ spent }) => spent !== undefined && spent % 1000 !== 0);
  const version = hasFractions || (control !== null && timeLimit(control) === null) ? '3.0' : '2.2';
  const { lines: header, others } = tagLines(tags, version);
  const lines = ["'CSA encoding=UTF-8", `V${version}`, ...header];
  lines.push(...boardLines(tree.start, position), position.side === 0 ? '+' : '-');
  lines.push(...others.map((tag) => `'*${tagCommand(tag)}`));
  lines.push(...annotationLines(nodeOf(tree, ROOT)));
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

type Version = '2.2' | '3.0';

/** The header lines of tags, players first, and the tags that have no line. */
function tagLines(tags: readonly Tag[], version: Version): { lines: string[]; others: Tag[] } {
  const lines: string[] = [];
  const others: Tag[] = [];
  const isPlayer = ({ name }: Tag): boolean => name === 'Black' || name === 'White';
  const ordered = [
    ...tags.filter(({ name }) => name === 'Black'),
    ...tags.filter(({ name }) => name === 'White'),
    ...tags.filter((tag) => !isPlayer(tag)),
  ];
  const start = writeStartTime(tagOf(tags, 'Date'), tagOf(tags, 'Time'));
  for (const tag of ordered) {
    const isTime = tag.name === 'Time' && start !== null;
    const line = isTime ? null : lineOf(tag, start, version);
    if (line !== null && !/[\r\n]/.test(line) && line === trimSpaces(line)) lines.push(line);
    else if (!isTime) others.push(tag);
  }
  return { lines, others };
}

/** The header line of a tag, or null where there is none for it. */
function lineOf({ name, value }: Tag, start: string | null, version: Version): string | null {
  switch (name) {
    case 'Black':
    case 'White':
      return value === '' ? null : `N${name === 'Black' ? '+' : '-'}${value}`;
    case 'Event':
    case 'Site':
    case 'Opening':
      return `$${name.toUpperCase()}:${value}`;
    case 'Date':
      return start === null ? null : `$START_TIME:${start}`;
    case 'TimeControl':
      return timeLine(value, version);
    default:
      return /^\$[A-Z_+-]+$/.test(name) && !(name.slice(1) in CSA_TAGS) ? `${name}:${value}` : null;
  }
}

/** `HH:MM+SS`, where the time control can be written so. */
function timeLimit({ stages, byoyomi, hourglass }: TimeControl): string | null {
  const [stage, ...more] = stages;
  if (!stage || more.length > 0 || hourglass || stage.moves !== null) return null;
  const { base, increment } = stage;
  if (increment > 0 || base % 60 !== 0 || !Number.isInteger(byoyomi)) return null;
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${two(Math.floor(base / 3600))}:${two((base / 60) % 60)}+${two(byoyomi)}`;
}

function timeLine(text: string, version: Version): string | null {
  const control = readTimeControl(text);
  if (version === '2.2') return `$TIME_LIMIT:${(control && timeLimit(control)) ?? text}`;
  return control && control.stages.length === 1 && !control.hourglass
    ? `$TIME:${writeCsaTimeControl(control)}`
    : null;
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

/** A comment line that the reader keeps word for word. */
const isPlainRemark = (extra: string): boolean =>
  /^'(?!\*|CSA encoding=)[^\r\n]*$/i.test(extra) && extra === trimSpaces(extra);

function annotationLines(node: GameNode): string[] {
  const lines: string[] = [];
  const extras = [...(node.extras ?? [])];
  const { evaluation, ...rest } = node;
  if (evaluation) {
    const at = extras.findIndex((extra) => /^'\*\* \S[^\r\n]*$/.test(extra));
    const [moves] = at >= 0 ? extras.splice(at, 1) : [];
    lines.push(`'** ${writeCsaScore(evaluation.score)}${moves ? moves.slice(3) : ''}`);
    if (evaluation.depth !== undefined) lines.push(`'*[%depth ${evaluation.depth}]`);
  }
  for (const command of commandsOf(rest, SHOGI_DIALECT)) lines.push(`'*${command}`);
  for (const extra of extras)
    lines.push(isPlainRemark(extra) ? extra : `'*${remarkCommand(extra, SHOGI_DIALECT)}`);
  if (node.comment)
    lines.push(
      `'*${writeWords(node.comment).replace(/^\*/gm, '[%char 2A]').replaceAll('\n', "\n'*")}`,
    );
  return lines;
}
