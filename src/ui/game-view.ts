import { timesAlong, type MoveTime } from '@/core/game/clock';
import { gameInfo, type GameInfo } from '@/core/game/info';
import type { Move } from '@/core/game/move';
import type { GameRecord } from '@/core/game/record';
import type { Ruleset, Side, Position } from '@/core/game/ruleset';
import { mainLine, nodeOf, pathTo, ROOT, type GameNode, type NodeId } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';

/** A game with what the Desk keeps asking of it, worked out once. */
export class GameView {
  readonly ruleset: Ruleset;
  readonly info: GameInfo;
  /** Main line without the root; the node of ply n is at n − 1. */
  readonly line: readonly GameNode[];
  /** The main line's moves; the same list after an edit that leaves them as they were. */
  readonly moves: readonly Move[];
  /** The same in UCI or USI. */
  readonly codes: readonly string[];
  readonly firstSide: Side;
  /** Shared with the views of the same game before an edit: a node's position never changes. */
  private readonly positions: Map<NodeId, Position>;
  private readonly plies: ReadonlyMap<NodeId, number>;
  /** Of the main line's moves; the same list after an edit that leaves it as it was. */
  readonly times: readonly MoveTime[];

  /** @param previous the view of the same game before an edit, whose work is kept */
  constructor(
    readonly record: GameRecord,
    previous?: GameView,
  ) {
    this.positions = previous?.positions ?? new Map();
    this.ruleset = rulesetOf(record.tree.kind);
    this.info = gameInfo(record);
    this.line = mainLine(record.tree);
    const moves = this.line.map(({ move }) => move);
    const same =
      moves.length === previous?.moves.length &&
      moves.every((move, index) => move === previous.moves[index]);
    this.moves = same ? previous!.moves : moves;
    this.codes = same ? previous!.codes : moves.map((move) => this.ruleset.code(move));
    this.plies = new Map([
      [ROOT, 0],
      ...this.line.map(({ id }, index) => [id, index + 1] as const),
    ]);
    this.firstSide = this.ruleset.side(this.positionOf(ROOT));
    const times = timesAlong(this.line, this.firstSide, this.info.timeControl);
    const sameTimes =
      times.length === previous?.times.length &&
      times.every(({ spent, left }, index) => {
        const before = previous.times[index]!;
        return spent === before.spent && left === before.left;
      });
    this.times = sameTimes ? previous!.times : times;
  }

  positionOf(id: NodeId): Position {
    const known = this.positions.get(id);
    if (known !== undefined) return known;
    const { tree } = this.record;
    let position: Position = this.positions.get(ROOT) ?? this.ruleset.start(tree.start);
    this.positions.set(ROOT, position);
    for (const node of pathTo(tree, id)) {
      const next = this.positions.get(node.id) ?? this.ruleset.play(position, node.move);
      this.positions.set(node.id, next);
      position = next;
    }
    return position;
  }

  node(id: NodeId): GameNode {
    return nodeOf(this.record.tree, id);
  }

  has(id: NodeId): boolean {
    return this.record.tree.nodes.has(id);
  }

  /** Ply of a main-line node, or of the main-line node that its variation leaves from. */
  plyOf(id: NodeId): number {
    for (let node = this.node(id); ; node = this.node(node.parent!)) {
      const ply = this.plies.get(node.id);
      if (ply !== undefined) return ply;
    }
  }

  isMainLine(id: NodeId): boolean {
    return this.plies.has(id);
  }

  nodeAtPly(ply: number): NodeId {
    return ply <= 0 ? ROOT : this.line[Math.min(ply, this.line.length) - 1]!.id;
  }

  timeAtPly(ply: number): MoveTime | null {
    return this.times[ply - 1] ?? null;
  }

  /** Milliseconds left on each side's clock after a ply, where known. */
  clocksAtPly(ply: number): [number | null, number | null] {
    const clocks: [number | null, number | null] = [null, null];
    const stage = this.info.timeControl?.stages[0];
    if (stage) clocks.fill(stage.base * 1000);
    for (let index = 0; index < ply; index++) {
      const side = ((this.firstSide + index) % 2) as Side;
      const { left } = this.times[index] ?? { left: null };
      clocks[side] = left;
    }
    return clocks;
  }

  /** Milliseconds of byoyomi that a side had left at its last move before a ply; null where it is not in byoyomi. */
  byoyomiAtPly(ply: number, side: Side): number | null {
    for (let index = Math.min(ply, this.times.length) - 1; index >= 0; index--)
      if ((this.firstSide + index) % 2 === side) return this.times[index]!.byoyomiLeft;
    return null;
  }

  /** The move that led to the node, or null at the root. */
  moveTo(id: NodeId): Move | null {
    const node = this.node(id);
    return node.parent === null ? null : node.move;
  }
}
