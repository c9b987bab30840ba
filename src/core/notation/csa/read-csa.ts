import { LIMITS, limitProblem, ReadError, type Limit, type Problem } from '../../game/problem';
import { tagLimit, type GameRecord, type Tag } from '../../game/record';
import type { EndReason, Result } from '../../game/result';
import { PositionError, type Side } from '../../game/ruleset';
import { cpScore, mateScore, type Score } from '../../game/score';
import { trimSpaces } from '../../game/text';
import { overLimitAt, ROOT, TreeBuilder, type NodeId } from '../../game/tree';
import { squareAt } from '../../shogi/board-geometry';
import { HANDICAPS, SHOGI_START } from '../../shogi/handicaps';
import { GOLD, pieceOf, SET_COUNTS, typeOf, unpromoted } from '../../shogi/pieces';
import { ShogiPosition } from '../../shogi/position';
import { shogi } from '../../shogi/ruleset';
import { mergeContent, readCommands } from '../comment-commands';
import { CSA_ENDS, readStatedResult } from '../kif/ends';
import { nearbyText } from '../../game/nearby';
import type { LineFormat, SourceLine } from '../line-stream';
import { readSfen, validated, writeSfen } from '../../shogi/sfen';
import { SHOGI_DIALECT } from '../shogi-dialect';
import { readStartTime } from '../start-time';
import { readCsaMove } from './csa-move';
import { CSA_MATE, CSA_MATE_BOUND, CSA_TAGS, typeOfCsa } from './csa-pieces';

/** CSA (versions 1 to 3); games are parted by a line `/`. */
export const CSA: LineFormat = {
  cutter: () => (line) => (line.trim() === '/' ? 'between' : 'within'),
  read: (lines) => new CsaReader(lines).read(),
};

class CsaReader {
  private readonly tags: Tag[] = [];
  private position = new ShogiPosition();
  private tree: TreeBuilder | null = null;
  private node: NodeId = ROOT;
  private hasBoard = false;
  private readonly early: string[] = [];
  private result: Result = '*';
  private end: EndReason | null = null;
  private line = 0;
  private column = 1;

  constructor(private readonly lines: readonly SourceLine[]) {}

  private fail(code: string, params: Problem['params'] = {}): never {
    throw new ReadError({ code, params, place: { line: this.line, column: this.column } });
  }

  private limit(limit: Limit): never {
    const { code, params } = limitProblem(limit);
    this.fail(code, params);
  }

  private pushTags(...tags: readonly Tag[]): void {
    for (const tag of tags) {
      const limit = this.tags.length >= LIMITS.tags ? 'tags' : tagLimit(tag);
      if (limit) this.limit(limit);
      this.tags.push(tag);
    }
  }

  read(): GameRecord {
    for (const { text: line, number } of this.lines) {
      this.line = number;
      this.column = 1;
      if (line.length > LIMITS.lineLength) this.limit('lineLength');
      if (line.startsWith("'") || line.startsWith('$') || line.startsWith('N'))
        this.statement(trimSpaces(line));
      else
        for (const part of line.split(',')) {
          this.statement(part.trim());
          this.column += part.length + 1;
        }
    }
    const tree = this.begin();
    return { tree: tree.build(), tags: this.tags, result: this.result, end: this.end };
  }

  private statement(text: string): void {
    if (text === '') return;
    switch (text[0]) {
      case "'":
        return this.comment(text);
      case 'V':
        return;
      case 'N':
        if (text.length > 2)
          this.pushTags({ name: text[1] === '+' ? 'Black' : 'White', value: text.slice(2) });
        return;
      case '$':
        return this.tag(text);
      case 'P':
        return this.board(text);
      case 'T':
        return this.time(text);
      case '%':
        return this.finish(text);
      case '+':
      case '-':
        if (text.length > 1) return this.move(text);
        this.position.side = text === '+' ? 0 : 1;
        this.begin();
        return;
      default:
        this.fail('csa.statement', { found: text.slice(0, 40) });
    }
  }

  private comment(text: string): void {
    if (/^'CSA encoding=/i.test(text)) return;
    if (!this.tree) {
      this.early.push(text);
      return;
    }
    const node = this.tree.node(this.node);
    const evaluation = /^'\*\*\s*([+-]?\d{1,6})(?:\s+([^]*))?$/.exec(text);
    if (evaluation) {
      node.evaluation = { ...node.evaluation, score: readCsaScore(Number(evaluation[1])) };
      if (evaluation[2]) (node.extras ??= []).push(`'** ${evaluation[2].trim()}`);
    } else if (text.startsWith("'*")) {
      const stated = readStatedResult(text.slice(2));
      if (stated) {
        this.result = stated.result;
        this.end = stated.end;
        return;
      }
      const depth = /^'\*\[%depth (\d{1,3})\]$/.exec(text);
      if (depth && node.evaluation) {
        node.evaluation = { ...node.evaluation, depth: Number(depth[1]) };
        return;
      }
      const content = readCommands(text.slice(2), SHOGI_DIALECT, this.position.side);
      mergeContent(node, content);
      this.pushTags(...(content.tags ?? []));
    } else (node.extras ??= []).push(text);
    const limit = overLimitAt(node);
    if (limit) this.limit(limit);
  }

  private tag(text: string): void {
    const match = /^\$([A-Z_+-]+):([^]*)$/.exec(text);
    if (!match) this.fail('csa.tag', { found: text.slice(0, 40) });
    const [, name, value] = match;
    const start = name === 'START_TIME' ? readStartTime(value!) : null;
    this.pushTags(...(start ?? [{ name: CSA_TAGS[name!] ?? `$${name}`, value: value! }]));
  }

  private board(text: string): void {
    if (this.tree) this.fail('csa.boardAfterMoves');
    this.hasBoard = true;
    if (text.startsWith('PI')) return this.initial(text.slice(2));
    const row = /^P([1-9])([^]*)$/.exec(text);
    if (row) return this.row(Number(row[1]), row[2]!);
    const pieces = /^P([+-])((?:\d\d[A-Z]{2})+)$/.exec(text);
    if (!pieces) this.fail('csa.board', { found: text.slice(0, 40) });
    this.pieces(pieces[1] === '+' ? 0 : 1, pieces[2]!);
  }

  private initial(removals: string): void {
    const { side } = this.position;
    this.position = readSfen(SHOGI_START);
    this.position.side = side;
    if (!/^(?:[1-9][1-9][A-Z]{2})*$/.test(removals))
      this.fail('csa.board', { found: removals.slice(0, 40) });
    for (const [, file, rank, name] of removals.matchAll(/(\d)(\d)([A-Z]{2})/g)) {
      const square = squareAt(Number(file), Number(rank));
      if (typeOf(this.position.board[square]!) !== typeOfCsa(name!))
        this.fail('csa.board', { found: `${file}${rank}${name}` });
      this.position.board[square] = 0;
    }
  }

  private row(rank: number, text: string): void {
    const cells = text.padEnd(27).match(/.{3}/g) ?? [];
    if (text.trimEnd().length > 27) this.fail('csa.board', { found: text.slice(0, 40) });
    cells.forEach((cell, index) => {
      const square = squareAt(9 - index, rank);
      if (/^ \* *$/.test(cell) || cell.trim() === '') return void (this.position.board[square] = 0);
      const type = typeOfCsa(cell.slice(1));
      if (type < 1 || !/^[+-]/.test(cell)) this.fail('csa.board', { found: cell });
      this.position.board[square] = pieceOf(type, cell[0] === '+' ? 0 : 1);
    });
  }

  private pieces(side: Side, text: string): void {
    for (const [, file, rank, name] of text.matchAll(/(\d)(\d)([A-Z]{2})/g)) {
      if (name === 'AL') {
        this.giveRest(side);
        continue;
      }
      const type = typeOfCsa(name!);
      const inHand = file === '0' && rank === '0';
      if (type < 1 || (inHand && type > GOLD) || (!inHand && (file === '0' || rank === '0')))
        this.fail('csa.board', { found: `${file}${rank}${name}` });
      const hand = this.position.hands[side];
      if (inHand) hand[type] = hand[type]! + 1;
      else this.position.board[squareAt(Number(file), Number(rank))] = pieceOf(type, side);
    }
  }

  /** All pieces that are not yet placed go to the hand of a side. */
  private giveRest(side: Side): void {
    const left = [...SET_COUNTS];
    for (const piece of this.position.board) if (piece) left[unpromoted(typeOf(piece))]!--;
    for (const hand of this.position.hands) hand.forEach((count, type) => (left[type]! -= count));
    for (let type = 1; type <= GOLD; type++)
      this.position.hands[side][type]! += Math.max(0, left[type]!);
  }

  /** Ends the header: from here on there is a tree. */
  private begin(): TreeBuilder {
    if (this.tree) return this.tree;
    if (!this.hasBoard) this.initial('');
    try {
      validated(this.position.settle());
    } catch (error) {
      if (error instanceof PositionError) this.fail(error.code, error.params);
      throw error;
    }
    const { side } = this.position;
    const sfen = writeSfen(this.position);
    const known = HANDICAPS.find((handicap) => handicap.start === sfen);
    this.tree = new TreeBuilder('shogi', known?.start ?? sfen);
    this.position.side = side;
    const { line } = this;
    this.early.forEach((text) => this.comment(text));
    this.line = line;
    return this.tree;
  }

  private move(text: string): void {
    const tree = this.begin();
    const move = readCsaMove(this.position, text);
    const rightSide = (text[0] === '+' ? 0 : 1) === this.position.side;
    if (move === null || !rightSide || !this.position.isLegal(move))
      this.fail('move.illegal', {
        move: text.slice(0, 40),
        number: String(this.position.ply),
        position: writeSfen(this.position),
        nearby: nearbyText(shogi, this.position, move === null ? '' : shogi.code(move)),
      });
    const limit = tree.fullAt(this.node);
    if (limit) this.limit(limit);
    this.node = tree.add(this.node, move);
    this.position.make(move);
  }

  private time(text: string): void {
    const match = /^T(\d{1,7})(?:\.(\d{1,3}))?$/.exec(text);
    if (!match || !this.tree) this.fail('csa.time', { found: text.slice(0, 20) });
    if (this.end !== null) return;
    this.tree.node(this.node).spent =
      Number(match[1]) * 1000 + Number((match[2] ?? '').padEnd(3, '0'));
  }

  private finish(text: string): void {
    this.begin();
    const foul = /^%([+-])ILLEGAL_ACTION$/.exec(text);
    if (foul) {
      this.end = 'illegal move';
      this.result = foul[1] === '+' ? '0-1' : '1-0';
      return;
    }
    const ending = CSA_ENDS.read(text, this.position.side);
    if (!ending) this.fail('csa.end', { found: text.slice(0, 40) });
    this.result = ending.result;
    this.end = ending.end;
  }
}

function readCsaScore(value: number): Score {
  if (Math.abs(value) <= CSA_MATE_BOUND) return cpScore(value);
  return mateScore(Math.max(0, CSA_MATE - Math.abs(value)), value > 0 ? 0 : 1);
}
