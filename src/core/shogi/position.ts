import { dropOf, fromOf, NULL_MOVE, promotionOf, toOf, type Move, type Square } from '../game/move';
import { joinKey, keyTable } from '../game/random-bits';
import type { Side } from '../game/ruleset';
import { UndoStack } from '../game/undo-stack';
import {
  DIRECTION,
  KNIGHT_TARGETS,
  N,
  opposite,
  rankFor,
  RAYS,
  S,
  SLIDE_MASK,
  STEP_MASK,
} from './board-geometry';
import { canPromote, GOLD, KING, KNIGHT, LANCE, PAWN, pieceOf, unpromoted } from './pieces';

const SEED = 0x62656b7472612d73n;
const HAND_KEYS = 32 * 81;
const SIDE_KEY = HAND_KEYS + 2 * 8 * 19;
const { low: LOW, high: HIGH } = keyTable(SEED, SIDE_KEY + 1);
const handKey = (side: Side, type: number, count: number): number =>
  HAND_KEYS + (side * 8 + type) * 19 + count;

/**
 * A shogi position with the mutable core of the rules: {@link make} and {@link undo} change it in place.
 * Outside `core/` it is treated as immutable; {@link clone} before changing one that others hold.
 */
export class ShogiPosition {
  board = new Uint8Array(81);
  hands: [Uint8Array, Uint8Array] = [new Uint8Array(8), new Uint8Array(8)];
  side: Side = 0;
  /** Number of the ply about to be played, as in SFEN. */
  ply = 1;
  /** -1 where a side has no king, as in mate problems. */
  kings: [Square, Square] = [-1, -1];
  /** The key in two halves; typed arrays spare the boxing of 32-bit fields. */
  private readonly hash = new Int32Array(2);
  private readonly undone = new UndoStack();

  clone(): ShogiPosition {
    const copy = new ShogiPosition();
    copy.board.set(this.board);
    copy.hands[0].set(this.hands[0]);
    copy.hands[1].set(this.hands[1]);
    copy.side = this.side;
    copy.ply = this.ply;
    copy.kings = [this.kings[0], this.kings[1]];
    copy.hash.set(this.hash);
    return copy;
  }

  /** To be called once after the fields have been set by hand. */
  settle(): this {
    this.hash.fill(0);
    this.kings = [-1, -1];
    for (let square = 0; square < 81; square++) {
      const piece = this.board[square]!;
      if (piece === 0) continue;
      this.toggle(piece * 81 + square);
      if ((piece & 15) === KING) this.kings[(piece >> 4) as Side] = square;
    }
    for (const side of [0, 1] as const)
      for (let type = PAWN; type <= GOLD; type++)
        this.toggle(handKey(side, type, this.hands[side][type]!));
    if (this.side === 1) this.toggle(SIDE_KEY);
    return this;
  }

  private toggle(index: number): void {
    const { hash } = this;
    hash[0] = hash[0]! ^ LOW[index]!;
    hash[1] = hash[1]! ^ HIGH[index]!;
  }

  private addToHand(side: Side, type: number, change: 1 | -1): void {
    const hand = this.hands[side];
    const count = hand[type]!;
    this.toggle(handKey(side, type, count));
    hand[type] = count + change;
    this.toggle(handKey(side, type, count + change));
  }

  /** Plays a pseudo-legal move or {@link NULL_MOVE} in place. */
  make(move: Move): void {
    const { board, side } = this;
    const to = toOf(move);
    const captured = move === NULL_MOVE ? 0 : board[to]!;
    const { undone } = this;
    undone.push4(move, captured, this.hash[0]!, this.hash[1]!);
    if (move !== NULL_MOVE) {
      const dropped = dropOf(move);
      let piece: number;
      if (dropped !== 0) {
        piece = pieceOf(dropped, side);
        this.addToHand(side, dropped, -1);
      } else {
        const from = fromOf(move);
        piece = board[from]!;
        this.toggle(piece * 81 + from);
        board[from] = 0;
        if ((piece & 15) === KING) this.kings[side] = to;
        if (captured !== 0) {
          this.toggle(captured * 81 + to);
          if ((captured & 15) !== KING) this.addToHand(side, unpromoted(captured & 15), 1);
        }
        piece += promotionOf(move) << 3;
      }
      board[to] = piece;
      this.toggle(piece * 81 + to);
    }
    this.side = (1 - side) as Side;
    this.ply++;
    this.toggle(SIDE_KEY);
  }

  /** Takes back the last {@link make}. */
  undo(): void {
    const { undone, board } = this;
    const entry = undone.pop4();
    const { cells } = undone;
    this.hash[0] = cells[entry + 2]!;
    this.hash[1] = cells[entry + 3]!;
    const captured = cells[entry + 1]!;
    const move = cells[entry]! as Move;
    this.side = (1 - this.side) as Side;
    this.ply--;
    if (move === NULL_MOVE) return;
    const to = toOf(move);
    const dropped = dropOf(move);
    const hand = this.hands[this.side];
    if (dropped !== 0) {
      board[to] = 0;
      hand[dropped] = hand[dropped]! + 1;
      return;
    }
    const from = fromOf(move);
    const piece = board[to]! - (promotionOf(move) << 3);
    board[from] = piece;
    board[to] = captured;
    if ((piece & 15) === KING) this.kings[this.side] = from;
    if (captured !== 0 && (captured & 15) !== KING) {
      const type = unpromoted(captured & 15);
      hand[type] = hand[type]! - 1;
    }
  }

  /** Whether a piece of `by` attacks the square. */
  isAttacked(square: Square, by: Side): boolean {
    const { board } = this;
    const rays = RAYS[square]!;
    for (let direction = 0; direction < 8; direction++) {
      const ray = rays[direction]!;
      const towards = 1 << opposite(direction);
      for (let i = 0; i < ray.length; i++) {
        const piece = board[ray[i]!]!;
        if (piece === 0) continue;
        if (piece >> 4 === by && ((i === 0 ? STEP_MASK : SLIDE_MASK)[piece]! & towards) !== 0)
          return true;
        break;
      }
    }
    const knight = pieceOf(KNIGHT, by);
    const knights = KNIGHT_TARGETS[1 - by]![square]!;
    for (let i = 0; i < knights.length; i++) if (board[knights[i]!] === knight) return true;
    return false;
  }

  /** Whether the king of the side is attacked; a side without a king never is in check. */
  isInCheck(side: Side): boolean {
    const king = this.kings[side];
    return king >= 0 && this.isAttacked(king, (1 - side) as Side);
  }

  inCheck(): boolean {
    return this.isInCheck(this.side);
  }

  /**
   * Whether a pseudo-legal move is legal: the mover's king is safe, and a dropped pawn does not mate.
   * `checked`: {@link inCheck} of this position.
   */
  isLegalAfterAll(move: Move, checked: boolean): boolean {
    const { side } = this;
    const dropped = dropOf(move);
    const mateByPawn = dropped === PAWN && this.attacksKingByPawn(toOf(move));
    if (!mateByPawn && !checked) {
      if (dropped !== 0) return true;
      const king = this.kings[side];
      const from = fromOf(move);
      if (king < 0 || (from !== king && DIRECTION[king * 81 + from] === -1)) return true;
    }
    this.make(move);
    const legal = !this.isInCheck(side) && !(mateByPawn && !this.hasLegalMove());
    this.undo();
    return legal;
  }

  private attacksKingByPawn(to: Square): boolean {
    const front = RAYS[to]![this.side === 0 ? N : S]!;
    return front.length > 0 && front[0] === this.kings[1 - this.side];
  }

  /** Writes all pseudo-legal moves into `into` from index `start` on, and returns the index after the last. */
  pseudoLegalMoves(into: Move[] | Int32Array, start = 0): number {
    let end = start;
    for (let from = 0; from < 81; from++) end = this.movesFrom(from, into, end);
    for (let type = PAWN; type <= GOLD; type++) end = this.dropsOf(type, into, end);
    return end;
  }

  private movesFrom(from: Square, into: Move[] | Int32Array, start: number): number {
    const { board, side } = this;
    let end = start;
    const piece = board[from];
    if (!piece || piece >> 4 !== side) return end;
    if ((piece & 15) === KNIGHT) {
      const targets = KNIGHT_TARGETS[side]![from]!;
      for (let i = 0; i < targets.length; i++)
        end = this.boardMove(from, targets[i]!, piece, into, end);
      return end;
    }
    const steps = STEP_MASK[piece]!;
    const slides = SLIDE_MASK[piece]!;
    const rays = RAYS[from]!;
    for (let direction = 0; direction < 8; direction++) {
      if ((steps & (1 << direction)) === 0) continue;
      const ray = rays[direction]!;
      const reach = (slides & (1 << direction)) !== 0 ? ray.length : Math.min(1, ray.length);
      for (let i = 0; i < reach; i++) {
        const to = ray[i]!;
        end = this.boardMove(from, to, piece, into, end);
        if (board[to] !== 0) break;
      }
    }
    return end;
  }

  private boardMove(
    from: Square,
    to: Square,
    piece: number,
    into: Move[] | Int32Array,
    end: number,
  ): number {
    const { board, side } = this;
    const target = board[to]!;
    if (target !== 0 && target >> 4 === side) return end;
    const type = piece & 15;
    const move = from | (to << 7);
    if (canPromote(type)) {
      const rank = rankFor(to, side);
      if (rank <= 3 || rankFor(from, side) <= 3) into[end++] = (move | (1 << 18)) as Move;
      if (rank <= lastRanks(type)) return end;
    }
    into[end++] = move as Move;
    return end;
  }

  private dropsOf(type: number, into: Move[] | Int32Array, start: number): number {
    const { board, side } = this;
    let end = start;
    if (!this.hands[side][type]) return end;
    const least = lastRanks(type) + 1;
    const pawn = pieceOf(PAWN, side);
    for (let base = 0; base < 81; base += 9) {
      if (type === PAWN && this.fileHolds(base, pawn)) continue;
      const first = side === 0 ? least - 1 : 0;
      const last = side === 0 ? 9 : 10 - least;
      for (let to = base + first; to < base + last; to++)
        if (board[to] === 0) into[end++] = ((to << 7) | (type << 14)) as Move;
    }
    return end;
  }

  private fileHolds(base: Square, piece: number): boolean {
    for (let square = base; square < base + 9; square++)
      if (this.board[square] === piece) return true;
    return false;
  }

  /** 64 bits over board, hands and side to move. */
  key(): bigint {
    return joinKey(this.hash[1]!, this.hash[0]!);
  }

  /** Whether a move is legal, asking of nothing else. */
  isLegal(move: Move): boolean {
    if (move === NULL_MOVE) return false;
    const some: Move[] = [];
    const dropped = dropOf(move);
    const end =
      dropped === 0 ? this.movesFrom(fromOf(move), some, 0) : this.dropsOf(dropped, some, 0);
    for (let i = 0; i < end; i++)
      if (some[i] === move) return this.isLegalAfterAll(move, this.inCheck());
    return false;
  }

  /** All legal moves. */
  legalMoves(): Move[] {
    const moves: Move[] = [];
    const end = this.pseudoLegalMoves(moves);
    const checked = this.inCheck();
    let kept = 0;
    for (let i = 0; i < end; i++) {
      const move = moves[i]!;
      if (this.isLegalAfterAll(move, checked)) moves[kept++] = move;
    }
    moves.length = kept;
    return moves;
  }

  hasLegalMove(): boolean {
    const moves: Move[] = [];
    const end = this.pseudoLegalMoves(moves);
    const checked = this.inCheck();
    for (let i = 0; i < end; i++) if (this.isLegalAfterAll(moves[i]!, checked)) return true;
    return false;
  }
}

/** How many of the far ranks an unpromoted piece could never leave again: it may not go or be dropped there. */
export const lastRanks = (type: number): number =>
  type === PAWN || type === LANCE ? 1 : type === KNIGHT ? 2 : 0;
