import { NULL_MOVE, toOf, type Move, type Square } from '../../game/move';
import { LIMITS, ReadError, type Problem } from '../../game/problem';
import type { GameRecord, Tag } from '../../game/record';
import type { EndReason, Result } from '../../game/result';
import { ROOT, TreeBuilder, type NodeId } from '../../game/tree';
import { shogi } from '../../shogi/ruleset';
import type { ShogiPosition } from '../../shogi/position';
import { mergeContent, readCommands } from '../comment-commands';
import { nearbyMoves } from '../nearby';
import { writeSfen } from '../sfen/sfen';
import { SHOGI_DIALECT } from '../shogi-dialect';

interface Line {
  /** Number of the line's first move, counted from the start of the game. */
  first: number;
  /** The node that the line leaves from. */
  origin: NodeId;
  nodes: NodeId[];
}

/** Builds a shogi game from a file that goes line by line and refers back by move number, as KIF and KI2 do. */
export class ShogiGameBuilder {
  private readonly tree: TreeBuilder;
  private readonly lines: Line[] = [{ first: 1, origin: ROOT, nodes: [] }];
  private position: ShogiPosition;
  private comments: string[] = [];
  result: Result = '*';
  end: EndReason | null = null;

  constructor(private readonly startPosition: ShogiPosition) {
    this.tree = new TreeBuilder('shogi', writeSfen(startPosition));
    this.position = startPosition.clone();
  }

  /** The position after the last move read. */
  get current(): ShogiPosition {
    return this.position;
  }

  get inVariation(): boolean {
    return this.lines.length > 1;
  }

  /** Number of the next move in the line. */
  get number(): number {
    const line = this.lines.at(-1)!;
    return line.first + line.nodes.length;
  }

  private get last(): NodeId {
    const line = this.lines.at(-1)!;
    return line.nodes.at(-1) ?? line.origin;
  }

  /** Target of the last move, or -1. */
  get previousTarget(): Square {
    const { move } = this.tree.node(this.last);
    return move === NULL_MOVE ? -1 : toOf(move);
  }

  fail(code: string, params: Problem['params'], column: number): never {
    throw new ReadError({ code, params, place: { line: 0, column } });
  }

  /** Adds a move; `written` and `column` are for the message should it not be legal. */
  play(move: Move | null, written: string, column: number, spent: number | null): void {
    this.flushComments();
    if (move === null || !this.position.legalMoves().includes(move))
      this.fail(
        'move.illegal',
        {
          move: written.trim().slice(0, 40),
          number: String(this.number),
          position: writeSfen(this.position),
          nearby: nearbyMoves(shogi, this.position, move === null ? '' : shogi.code(move)).join(
            ', ',
          ),
        },
        column,
      );
    if (this.tree.size >= LIMITS.nodes) this.fail('limit.nodes', { most: LIMITS.nodes }, column);
    const id = this.tree.add(this.last, move);
    if (spent !== null) this.tree.node(id).spent = spent;
    this.lines.at(-1)!.nodes.push(id);
    this.position.make(move);
  }

  comment(line: string): void {
    this.comments.push(line);
    if (this.comments.length > 20_000)
      this.fail('limit.commentLength', { most: LIMITS.commentLength }, 1);
  }

  extra(line: string): void {
    this.flushComments();
    const node = this.tree.node(this.last);
    node.extras = [...(node.extras ?? []), line];
  }

  private flushComments(): void {
    if (this.comments.length === 0) return;
    const text = this.comments.join('\n').replace(/^\s+|\s+$/g, '');
    this.comments = [];
    mergeContent(this.tree.node(this.last), readCommands(text, SHOGI_DIALECT, this.position.side));
  }

  /** Goes back to before move `number` of the latest line that holds it. */
  branch(number: number, column: number): void {
    this.flushComments();
    const line = this.lines.findLast(
      ({ first, nodes }) => number >= first && number < first + nodes.length,
    );
    if (!line) this.fail('kif.variation', { number }, column);
    const origin = number === line.first ? line.origin : line.nodes[number - line.first - 1]!;
    this.lines.push({ first: number, origin, nodes: [] });
    this.position = this.startPosition.clone();
    for (const move of this.movesTo(origin)) this.position.make(move);
  }

  private movesTo(id: NodeId): Move[] {
    const moves: Move[] = [];
    for (let node = this.tree.node(id); node.parent !== null; node = this.tree.node(node.parent))
      moves.push(node.move);
    return moves.reverse();
  }

  finish(tags: readonly Tag[]): GameRecord {
    this.flushComments();
    return { tree: this.tree.build(), tags, result: this.result, end: this.end };
  }
}
