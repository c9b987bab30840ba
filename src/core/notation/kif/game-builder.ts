import { NULL_MOVE, toOf, type Move, type Square } from '../../game/move';
import { LIMITS, limitProblem, ReadError, type Limit, type Problem } from '../../game/problem';
import { tagLimit, type GameRecord, type Tag } from '../../game/record';
import type { EndReason, Result } from '../../game/result';
import { trimBlank } from '../../game/text';
import { overLimitAt, ROOT, TreeBuilder, type NodeId } from '../../game/tree';
import { shogi } from '../../shogi/ruleset';
import type { ShogiPosition } from '../../shogi/position';
import { mergeContent, readCommands } from '../comment-commands';
import { nearbyText } from '../../game/nearby';
import { writeSfen } from '../../shogi/sfen';
import { SHOGI_DIALECT } from '../shogi-dialect';

interface Line {
  /** Number of the line's first move, counted from the start of the game. */
  first: number;
  /** The node that the line leaves from. */
  origin: NodeId;
  nodes: NodeId[];
  /** How many variations it lies within. */
  nesting: number;
}

/** Half moves between positions that are kept, so that going back to any of them is short. */
const KEPT_EVERY = 32;

/** Builds a shogi game from a file that goes line by line and refers back by move number, as KIF and KI2 do. */
export class ShogiGameBuilder {
  private readonly tree: TreeBuilder;
  private line: Line = { first: 1, origin: ROOT, nodes: [], nesting: 0 };
  /** The latest line that holds a move of each number. */
  private readonly latest: Line[] = [];
  private readonly kept = new Map<NodeId, ShogiPosition>();
  private position: ShogiPosition;
  private comments: string[] = [];
  private commentLength = 0;
  private readonly tags: Tag[] = [];
  result: Result = '*';
  end: EndReason | null = null;

  constructor(startPosition: ShogiPosition) {
    this.tree = new TreeBuilder('shogi', writeSfen(startPosition));
    this.kept.set(ROOT, startPosition.clone());
    this.position = startPosition.clone();
  }

  /** The position after the last move read. */
  get current(): ShogiPosition {
    return this.position;
  }

  get inVariation(): boolean {
    return this.line.nesting > 0;
  }

  /** Number of the next move in the line. */
  get number(): number {
    return this.line.first + this.line.nodes.length;
  }

  private get last(): NodeId {
    return this.line.nodes.at(-1) ?? this.line.origin;
  }

  /** Target of the last move, or -1. */
  get previousTarget(): Square {
    const { move } = this.tree.node(this.last);
    return move === NULL_MOVE ? -1 : toOf(move);
  }

  fail(code: string, params: Problem['params'], column: number): never {
    throw new ReadError({ code, params, place: { line: 0, column } });
  }

  private limit(limit: Limit, column = 1): never {
    const { code, params } = limitProblem(limit);
    this.fail(code, params, column);
  }

  /** Adds a move; `written` and `column` are for the message should it not be legal. */
  play(move: Move | null, written: string, column: number, spent: number | null): void {
    this.flushComments();
    if (move === null || !this.position.isLegal(move))
      this.fail(
        'move.illegal',
        {
          move: written.trim().slice(0, 40),
          number: String(this.number),
          position: writeSfen(this.position),
          nearby: nearbyText(shogi, this.position, move === null ? '' : shogi.code(move)),
        },
        column,
      );
    const limit = this.tree.fullAt(this.last);
    if (limit) this.limit(limit, column);
    const id = this.tree.add(this.last, move);
    if (spent !== null) this.tree.node(id).spent = spent;
    this.latest[this.number] = this.line;
    this.line.nodes.push(id);
    this.position.make(move);
    if (this.tree.depth(id) % KEPT_EVERY === 0) this.kept.set(id, this.position.clone());
  }

  comment(line: string): void {
    this.comments.push(line);
    this.commentLength += line.length + 1;
    if (this.commentLength > LIMITS.commentLength) this.limit('commentLength');
  }

  extra(line: string): void {
    this.flushComments();
    const node = this.tree.node(this.last);
    (node.extras ??= []).push(line);
    if (overLimitAt(node)) this.limit('extras');
  }

  private flushComments(): void {
    if (this.comments.length === 0) return;
    const text = trimBlank(this.comments.join('\n'));
    this.comments = [];
    this.commentLength = 0;
    const node = this.tree.node(this.last);
    const content = readCommands(text, SHOGI_DIALECT, this.position.side);
    mergeContent(node, content);
    const limit = overLimitAt(node);
    if (limit) this.limit(limit);
    this.tags.push(...(content.tags ?? []));
  }

  /** Goes back to before move `number` of the latest line that holds it. */
  branch(number: number, column: number): void {
    this.flushComments();
    const line = this.latest[number];
    if (!line) this.fail('kif.variation', { number }, column);
    const isAlternative = number === line.first;
    const origin = isAlternative ? line.origin : line.nodes[number - line.first - 1]!;
    const nesting = isAlternative && line.nesting > 0 ? line.nesting : line.nesting + 1;
    if (nesting > LIMITS.nesting) this.limit('nesting', column);
    this.line = { first: number, origin, nodes: [], nesting };
    this.position = this.positionAt(origin);
  }

  private positionAt(id: NodeId): ShogiPosition {
    const moves: Move[] = [];
    let node = this.tree.node(id);
    for (; !this.kept.has(node.id); node = this.tree.node(node.parent!)) moves.push(node.move);
    const position = this.kept.get(node.id)!.clone();
    for (const move of moves.reverse()) position.make(move);
    return position;
  }

  finish(tags: readonly Tag[]): GameRecord {
    this.flushComments();
    const all = [...tags, ...this.tags];
    const limit = all.length > LIMITS.tags ? 'tags' : all.map(tagLimit).find((one) => one !== null);
    if (limit) this.limit(limit);
    return { tree: this.tree.build(), tags: all, result: this.result, end: this.end };
  }
}
