import { chess } from '../../chess/ruleset';
import type { ChessPosition } from '../../chess/position';
import { tagOf, type GameRecord, type Tag } from '../../game/record';
import { nodeOf, ROOT, type GameNode, type GameTree } from '../../game/tree';
import { tagCommand, writeCommands, writeWordsBefore } from '../comment-commands';
import { CHESS_START } from '../../chess/fen';
import { writeSan } from '../../chess/san';
import { CHESS_DIALECT, DERIVED } from './read-pgn';

const WIDTH = 79;
const ROSTER = ['Event', 'Site', 'Date', 'Round', 'White', 'Black', 'Result'] as const;

/** Writes a chess game: seven-tag roster first, lines of at most 79 characters, one blank line at the end. */
export function writePgn(record: GameRecord): string {
  return `${writeTags(record)}\n${wrap(moveText(record))}\n\n`;
}

/** Whether a tag pair can hold the tag, so that every reader finds it again. */
const isTagPair = ({ name, value }: Tag): boolean =>
  /^[A-Za-z0-9_]+$/.test(name) && name !== 'Variant' && !DERIVED.has(name) && !/[\r\n]/.test(value);

function writeTags(record: GameRecord): string {
  const { tree, result } = record;
  const tags = record.tags.filter(isTagPair);
  const derived = new Map<string, string>([['Result', result]]);
  if (tree.start !== CHESS_START) derived.set('SetUp', '1').set('FEN', tree.start);
  const lines: string[] = ROSTER.map((name) =>
    writeTag(
      name,
      derived.get(name) ?? tagOf(tags, name) ?? (name === 'Date' ? '????.??.??' : '?'),
    ),
  );
  for (const { name, value } of tags)
    if (!ROSTER.includes(name as 'Event') && !derived.has(name)) lines.push(writeTag(name, value));
  for (const name of ['SetUp', 'FEN'])
    if (derived.has(name)) lines.push(writeTag(name, derived.get(name)!));
  return lines.join('');
}

const writeTag = (name: string, value: string): string =>
  `[${name} "${value.replace(/[\\"]/g, '\\$&')}"]\n`;

/** Words of a comment are kept together with their braces; a line break inside is written as an empty line. */
type Token = { word: string } | { comment: string };

function moveText({ tree, tags, result }: GameRecord): Token[] {
  const tokens: Token[] = [];
  const position = chess.start(tree.start);
  const root = nodeOf(tree, ROOT);
  writeSymbols(root, tokens);
  const others = tags.filter((tag) => !isTagPair(tag)).map(tagCommand);
  if (others.length > 0) tokens.push({ comment: others.join(' ') });
  writeComment(root, tokens);
  writeLine(tree, root, position, tokens);
  tokens.push({ word: result });
  return tokens;
}

interface OpenLine {
  node: GameNode;
  /** Variations beside `node`, and how many of them have been written. */
  variations: GameNode[];
  written: number;
  made: number;
}

/** Writes all that follows `parent`; variations are kept on a stack, so that depth costs no recursion. */
function writeLine(
  tree: GameTree,
  parent: GameNode,
  position: ChessPosition,
  tokens: Token[],
): void {
  const children = (node: GameNode): GameNode[] => node.children.map((id) => nodeOf(tree, id));
  const open = (from: GameNode): OpenLine => ({
    node: from,
    variations: [],
    written: 0,
    made: 0,
  });
  const lines = [open(parent)];
  let numbered = false;
  const play = (line: OpenLine, node: GameNode): void => {
    if (node.before) {
      tokens.push({ comment: writeWordsBefore(node.before) });
      numbered = false;
    }
    const { side, fullmoves } = position;
    if (side === 0 || !numbered) tokens.push({ word: `${fullmoves}${side === 0 ? '.' : '...'}` });
    tokens.push({ word: writeSan(position, node.move) });
    position.make(node.move);
    line.made++;
    line.node = node;
    writeSymbols(node, tokens);
    numbered = !writeComment(node, tokens);
  };
  while (lines.length > 0) {
    const line = lines.at(-1)!;
    const variation = line.variations[line.written];
    if (variation) {
      line.written++;
      position.undo();
      tokens.push({ word: '(' });
      numbered = false;
      const inner = open(variation);
      lines.push(inner);
      play(inner, variation);
      continue;
    }
    const [first, ...others] = children(line.node);
    if (first) {
      play(line, first);
      line.variations = others;
      line.written = 0;
      continue;
    }
    lines.pop();
    for (let i = 0; i < line.made; i++) position.undo();
    const outer = lines.at(-1);
    if (outer) {
      tokens.push({ word: ')' });
      numbered = false;
      position.make(outer.node.move);
    }
  }
}

function writeSymbols(node: GameNode, tokens: Token[]): void {
  for (const symbol of node.symbols ?? []) tokens.push({ word: `$${symbol}` });
}

function writeComment(node: GameNode, tokens: Token[]): boolean {
  const comment = writeCommands(node, CHESS_DIALECT);
  if (comment !== '') tokens.push({ comment });
  return comment !== '';
}

const PARAGRAPH = '\n';

/** Fills lines; a word longer than a line has one to itself. */
function wrap(tokens: readonly Token[]): string {
  const lines: string[] = [];
  let line: string[] = [];
  let width = -1;
  const breakLine = (): void => {
    if (line.length > 0) lines.push(line.join(' '));
    line = [];
    width = -1;
  };
  for (const word of wordsOf(tokens)) {
    if (word === PARAGRAPH) {
      breakLine();
      lines.push('');
      continue;
    }
    const length = [...word].length;
    if (width + 1 + length > WIDTH) breakLine();
    line.push(word);
    width += 1 + length;
  }
  breakLine();
  return lines.join('\n');
}

/**
 * What may not be parted by a line break, in order: parentheses cling to what they enclose, and a `%`, which at the beginning of a
 * line would make it an escape line, to what it follows.
 */
function* wordsOf(tokens: readonly Token[]): Generator<string> {
  let opened = '';
  let last: string | null = null;
  for (const token of tokens) {
    if ('word' in token && token.word === '(') {
      opened += '(';
      continue;
    }
    if ('word' in token && token.word === ')') {
      last = `${last ?? ''})`;
      continue;
    }
    const text = 'word' in token ? token.word : `{${token.comment.replace(/[ \t]+/g, ' ')}}`;
    for (const [index, paragraph] of `${opened}${text}`.split('\n').entries()) {
      const words: string[] = paragraph.split(' ').filter(Boolean);
      for (const word of index > 0 ? [PARAGRAPH, ...words] : words) {
        if (word.startsWith('%') && last !== null && last !== PARAGRAPH) last += ` ${word}`;
        else {
          if (last !== null) yield last;
          last = word;
        }
      }
    }
    opened = '';
  }
  if (last !== null) yield last;
}
