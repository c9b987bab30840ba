import {
  dropOf,
  fromOf,
  promotionOf,
  targetOf,
  toOf,
  type Move,
  type Square,
} from '../../game/move';
import type { GameRecord } from '../../game/record';
import { lineFrom, mainLine, nodeOf, ROOT, type GameNode, type GameTree } from '../../game/tree';
import { fileOf, rankOf } from '../../shogi/board-geometry';
import { handicapOf } from '../../shogi/handicaps';
import { typeOf } from '../../shogi/pieces';
import type { ShogiPosition } from '../../shogi/position';
import { commandsOf, remarkCommand, tagCommand, writeWords } from '../comment-commands';
import { readSfen } from '../../shogi/sfen';
import { SHOGI_DIALECT } from '../shogi-dialect';
import { writeDiagram } from './board-diagram';
import { KIF_ENDS, writeStatedResult } from './ends';
import { writeHeaders } from './headers';
import { PIECE_NAMES, writeSquare } from '../../shogi/japanese';

/** Writes a shogi game as KIF, in lines ended by `\n`. */
export function writeKif(record: GameRecord): string {
  const { tree, tags } = record;
  const start = readSfen(tree.start);
  const lines = ['#KIF version=2.0 encoding=UTF-8', ...startLines(tree.start, start)];
  const headers = writeHeaders(tags, start.side === 1);
  lines.push(...headers.lines, '手数----指手---------消費時間--');
  lines.push(...headers.others.map((tag) => `*${tagCommand(tag)}`));
  lines.push(...annotationLines(nodeOf(tree, ROOT)));
  const line = mainLine(tree);
  const position = start.clone();
  writeLineOf(line, position, -1, 1, lines);
  const plies = line.length;
  const word = KIF_ENDS.write(record, position.side);
  const stated = record.end === null ? null : writeStatedResult(record);
  if (word) lines.push(`${String(plies + 1).padStart(4)} ${word}`);
  else if (stated) lines.push(`*${stated}`);
  const summary = writeSummary(record, plies);
  if (summary) lines.push(summary);
  writeVariations(tree, line, position, lines);
  return `${lines.join('\n')}\n`;
}

function startLines(sfen: string, start: ShogiPosition): string[] {
  const handicap = handicapOf(sfen);
  if (handicap && start.ply === 1) return [`手合割：${handicap.kif}`];
  return ['手合割：その他', ...writeDiagram(start).trimEnd().split('\n')];
}

/** The line that tells the result in words. */
export function writeSummary({ result, end, tree }: GameRecord, plies: number): string | null {
  const handicap = readSfen(tree.start).side === 1;
  const names = handicap ? ['下手', '上手'] : ['先手', '後手'];
  const by = end === 'illegal move' ? '反則' : '';
  if (result === '1-0') return `まで${plies}手で${names[0]}の${by}勝ち`;
  if (result === '0-1') return `まで${plies}手で${names[1]}の${by}勝ち`;
  if (result !== '1/2-1/2') return null;
  const draw = end === 'repetition' ? '千日手' : end === 'impasse' ? '持将棋' : '引き分け';
  return `まで${plies}手で${draw}`;
}

/**
 * Writes the moves of a line from move `first` on.
 * @param position the position before its first move; it is left at the end of the line
 * @param previous target square of the move before, for 同; -1 where there is none
 */
function writeLineOf(
  line: readonly GameNode[],
  position: ShogiPosition,
  previous: Square,
  first: number,
  lines: string[],
): void {
  const totals = [0, 0];
  let target = previous;
  line.forEach((node, index) => {
    totals[position.side]! += node.spent ?? 0;
    const body = writeMove(position, node.move, target);
    const time = node.spent === undefined ? '' : writeTime(node.spent, totals[position.side]!);
    lines.push(`${String(first + index).padStart(4)} ${body}${time}`);
    for (const annotation of annotationLines(node)) lines.push(annotation);
    target = targetOf(node.move);
    position.make(node.move);
  });
}

function writeMove(position: ShogiPosition, move: Move, previous: Square): string {
  const to = toOf(move);
  const square = to === previous ? '同　' : writeSquare(to);
  const dropped = dropOf(move);
  if (dropped !== 0) return `${writeSquare(to)}${PIECE_NAMES[dropped]}打`;
  const from = fromOf(move);
  const name = PIECE_NAMES[typeOf(position.board[from]!)];
  return `${square}${name}${promotionOf(move) ? '成' : ''}(${fileOf(from)}${rankOf(from)})`;
}

/** `   ( 0:16/00:00:16)`. */
function writeTime(spent: number, total: number): string {
  const two = (value: number): string => String(value).padStart(2, '0');
  const seconds = Math.floor(spent / 1000);
  const sum = Math.floor(total / 1000);
  const fraction =
    spent % 1000
      ? `.${String(spent % 1000)
          .padStart(3, '0')
          .replace(/0+$/, '')}`
      : '';
  const clock = `${two(Math.floor(sum / 3600))}:${two(Math.floor(sum / 60) % 60)}:${two(sum % 60)}`;
  const move = `${String(Math.floor(seconds / 60)).padStart(2)}:${two(seconds % 60)}${fraction}`;
  return `   (${move}/${clock})`;
}

/** Comment, note and bookmark lines of a node; its words are one text, however many lines they have. */
export function annotationLines(node: GameNode): string[] {
  const extras = node.extras ?? [];
  const remarks = extras.filter((extra) => !isNote(extra) && !isEndWord(extra));
  return [
    ...extras.filter(isNote),
    ...commandsOf(node, SHOGI_DIALECT).map((command) => `*${command}`),
    ...remarks.map((remark) => `*${remarkCommand(remark, SHOGI_DIALECT)}`),
    ...(node.comment ? [`*${writeWords(node.comment).replaceAll('\n', '\n*')}`] : []),
  ];
}

/** A note or bookmark line, which the reader keeps word for word. */
const isNote = (extra: string): boolean => /^(?:#(?!KIF| *-+)|&)[^\r\n]*$/.test(extra);

const isEndWord = (extra: string): boolean => KIF_ENDS.read(extra, 0) !== null;

/**
 * Writes the variations beside a line from its end to its beginning, each with its own behind it: so each refers
 * back to the latest line that holds its move number, and the position only ever goes back to where the next one leaves.
 * @param position at the end of the main line
 */
function writeVariations(
  tree: GameTree,
  mainLine: readonly GameNode[],
  position: ShogiPosition,
  lines: string[],
): void {
  let depth = mainLine.length;
  const pending: { variation: GameNode; first: number }[] = [];
  /** Those beside a line whose first move has the number `first`; what is pushed last is written first. */
  const pushBeside = (line: readonly GameNode[], first: number): void => {
    line.forEach((node, index) => {
      const { children } = nodeOf(tree, node.parent!);
      if (children[0] !== node.id) return;
      for (let i = children.length - 1; i > 0; i--)
        pending.push({ variation: nodeOf(tree, children[i]!), first: first + index });
    });
  };
  pushBeside(mainLine, 1);
  for (let next = pending.pop(); next; next = pending.pop()) {
    const { variation, first } = next;
    for (; depth >= first; depth--) position.undo();
    const line = [variation, ...lineFrom(tree, variation.id)];
    lines.push('', `変化：${first}手`);
    writeLineOf(line, position, targetOf(nodeOf(tree, variation.parent!).move), first, lines);
    depth = first + line.length - 1;
    const end = line.at(-1)!.extras?.find(isEndWord);
    if (end) lines.push(`${String(first + line.length).padStart(4)} ${end}`);
    pushBeside(line, first);
  }
}
