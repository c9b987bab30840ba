import {
  NULL_MOVE,
  dropOf,
  fromOf,
  promotionOf,
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
import { commandsOf } from '../comment-commands';
import { readSfen } from '../sfen/sfen';
import { SHOGI_DIALECT } from '../shogi-dialect';
import { writeDiagram } from './board-diagram';
import { KIF_ENDS, writeStatedResult } from './ends';
import { writeHeaders } from './headers';
import { PIECE_NAMES, writeSquare } from './japanese';

/** Writes a shogi game as KIF, in lines ended by `\n`. */
export function writeKif(record: GameRecord): string {
  const { tree, tags } = record;
  const start = readSfen(tree.start);
  const lines = ['#KIF version=2.0 encoding=UTF-8', ...startLines(tree.start, start)];
  lines.push(...writeHeaders(tags, start.side === 1));
  lines.push('手数----指手---------消費時間--');
  lines.push(...annotationLines(nodeOf(tree, ROOT)));
  const side = writeLineOf(tree, mainLine(tree), start, 1, lines);
  const plies = mainLine(tree).length;
  const word = KIF_ENDS.write(record, side);
  const stated = record.end === null ? null : writeStatedResult(record);
  if (word) lines.push(`${String(plies + 1).padStart(4)} ${word}`);
  else if (stated) lines.push(`*${stated}`);
  const summary = writeSummary(record, plies);
  if (summary) lines.push(summary);
  writeVariations(tree, mainLine(tree), start, lines);
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

/** Writes the moves of a line from move `first` on; returns the side to move after it. */
function writeLineOf(
  tree: GameTree,
  line: readonly GameNode[],
  start: ShogiPosition,
  first: number,
  lines: string[],
): 0 | 1 {
  const position = positionBefore(tree, line[0], start);
  let previous = line[0] ? targetOf(tree, line[0]) : -1;
  const totals = [0, 0];
  line.forEach((node, index) => {
    totals[position.side]! += node.spent ?? 0;
    const body = writeMove(position, node.move, previous);
    const time = node.spent === undefined ? '' : writeTime(node.spent, totals[position.side]!);
    lines.push(`${String(first + index).padStart(4)} ${body}${time}`);
    lines.push(...annotationLines(node));
    previous = node.move === NULL_MOVE ? -1 : toOf(node.move);
    position.make(node.move);
  });
  return position.side;
}

function positionBefore(
  tree: GameTree,
  node: GameNode | undefined,
  start: ShogiPosition,
): ShogiPosition {
  const moves: Move[] = [];
  for (let id = node?.parent ?? ROOT; id !== ROOT; id = nodeOf(tree, id).parent!)
    moves.push(nodeOf(tree, id).move);
  const position = start.clone();
  for (const move of moves.reverse()) position.make(move);
  return position;
}

function targetOf(tree: GameTree, node: GameNode): Square {
  const parent = nodeOf(tree, node.parent!);
  return parent.move === NULL_MOVE ? -1 : toOf(parent.move);
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

/** Comment, note and bookmark lines of a node. */
export function annotationLines(node: GameNode): string[] {
  const extras = node.extras ?? [];
  const lines = extras.filter((extra) => /^[#&]/.test(extra));
  const remarks = extras.filter((extra) => !/^[#&]/.test(extra) && !isEndWord(extra));
  for (const command of [...commandsOf(node, SHOGI_DIALECT), ...remarks]) lines.push(`*${command}`);
  if (node.comment !== undefined)
    lines.push(...node.comment.split('\n').map((line) => `*${line.trimEnd()}`));
  return lines;
}

const isEndWord = (extra: string): boolean => KIF_ENDS.read(extra, 0) !== null;

/**
 * Writes the variations beside a line from its end to its beginning, each with its own behind it: so each refers
 * back to the latest line that holds its move number.
 */
function writeVariations(
  tree: GameTree,
  line: readonly GameNode[],
  start: ShogiPosition,
  lines: string[],
): void {
  const depth = new Map<GameNode, number>();
  for (const [index, node] of line.entries()) depth.set(node, index + 1);
  const numberOf = (node: GameNode): number => depth.get(node)!;
  const variationsBeside = (of: readonly GameNode[]): GameNode[] =>
    of.toReversed().flatMap((node) =>
      nodeOf(tree, node.parent!)
        .children.filter(
          (id) => nodeOf(tree, node.parent!).children[0] === node.id && id !== node.id,
        )
        .map((id) => nodeOf(tree, id))
        .map((variation) => (depth.set(variation, numberOf(node)), variation)),
    );
  const write = (variations: GameNode[]): void => {
    for (const variation of variations) {
      const nodes = [variation, ...lineFrom(tree, variation.id)];
      const first = numberOf(variation);
      nodes.forEach((node, index) => depth.set(node, first + index));
      lines.push('', `変化：${first}手`);
      writeLineOf(tree, nodes, start, first, lines);
      const end = nodes.at(-1)!.extras?.find(isEndWord);
      if (end) lines.push(`${String(first + nodes.length).padStart(4)} ${end}`);
      write(variationsBeside(nodes));
    }
  };
  write(variationsBeside(line));
}
