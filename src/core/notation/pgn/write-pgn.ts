import { chess } from '../../chess/ruleset';
import type { ChessPosition } from '../../chess/position';
import { tagOf, type GameRecord } from '../../game/record';
import { nodeOf, ROOT, type GameNode, type GameTree } from '../../game/tree';
import { writeCommands } from '../comment-commands';
import { CHESS_START } from '../fen/fen';
import { writeSan } from '../san/san';
import { CHESS_DIALECT } from './read-pgn';

const WIDTH = 79;
const ROSTER = ['Event', 'Site', 'Date', 'Round', 'White', 'Black', 'Result'] as const;

/** Writes a chess game: seven-tag roster first, lines of at most 79 characters, one blank line at the end. */
export function writePgn(record: GameRecord): string {
  return `${writeTags(record)}\n${wrap(moveText(record))}\n\n`;
}

function writeTags(record: GameRecord): string {
  const { tree, tags, result } = record;
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
  `[${name} "${value.replace(/[\r\n]+/g, ' ').replace(/[\\"]/g, '\\$&')}"]\n`;

/** Words of a comment are kept together with their braces; a line break inside is written as an empty line. */
type Token = { word: string } | { comment: string };

function moveText({ tree, result }: GameRecord): Token[] {
  const tokens: Token[] = [];
  const position = chess.start(tree.start);
  const root = nodeOf(tree, ROOT);
  writeSymbols(root, tokens);
  writeComment(root, tokens);
  writeLine(tree, root, position, tokens);
  tokens.push({ word: result });
  return tokens;
}

interface OpenLine {
  node: GameNode;
  /** Variations beside `node` that are still to be written. */
  variations: GameNode[];
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
  const open = (from: GameNode): OpenLine => ({ node: from, variations: [], made: 0 });
  const lines = [open(parent)];
  let numbered = false;
  const play = (line: OpenLine, node: GameNode): void => {
    if (node.before) {
      tokens.push({ comment: node.before });
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
    const variation = line.variations.shift();
    if (variation) {
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

/** What a comment can't hold is replaced: a closing brace would end it. */
const safeComment = (comment: string): string =>
  comment
    .replace(/\}/g, ')')
    .replace(/\r/g, '')
    .replace(/[ \t]+/g, ' ');

const PARAGRAPH = '\n';

function wrap(tokens: readonly Token[]): string {
  const lines: string[] = [];
  let line = '';
  for (const word of wordsOf(tokens)) {
    if (word === PARAGRAPH) {
      lines.push(line, '');
      line = '';
    } else if (line === '') line = word;
    else if ([...line].length + 1 + [...word].length <= WIDTH || word.startsWith('[Event'))
      line += ` ${word}`;
    else {
      lines.push(line);
      line = word;
    }
  }
  if (line !== '') lines.push(line);
  return lines.join('\n');
}

/** What may not be parted by a line break, in order; parentheses cling to what they enclose. */
function wordsOf(tokens: readonly Token[]): string[] {
  const words: string[] = [];
  let opened = '';
  for (const token of tokens) {
    if ('word' in token) {
      if (token.word === '(') opened += '(';
      else if (token.word === ')') words.push(`${words.pop() ?? ''})`);
      else words.push(opened + token.word);
    } else {
      const paragraphs = `${opened}{${safeComment(token.comment)}}`.split('\n');
      paragraphs.forEach((paragraph, index) => {
        if (index > 0) words.push(PARAGRAPH);
        words.push(...paragraph.split(' ').filter(Boolean));
      });
    }
    if (!('word' in token) || token.word !== '(') opened = '';
  }
  return words;
}
