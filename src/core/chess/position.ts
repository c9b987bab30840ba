import { fromOf, NULL_MOVE, promotionOf, toOf, type Move, type Square } from '../game/move';
import { joinKey, keyTable } from '../game/random-bits';
import type { Side } from '../game/ruleset';
import { UndoStack } from '../game/undo-stack';
import {
  DIRECTION,
  fileOf,
  KING_TARGETS,
  KNIGHT_TARGETS,
  PAWN_ATTACKS,
  RAYS,
  rankOf,
} from './board-geometry';
import { BISHOP, BLACK_BIT, KING, KNIGHT, PAWN, pieceOf, QUEEN, ROOK, sideOf } from './pieces';

export const WHITE_SHORT = 1;
export const WHITE_LONG = 2;
export const BLACK_SHORT = 4;
export const BLACK_LONG = 8;

/** Castling rights that remain after a piece has left or reached the square. */
const KEPT_RIGHTS = new Uint8Array(64).fill(15);
KEPT_RIGHTS[0] = 15 & ~WHITE_LONG;
KEPT_RIGHTS[7] = 15 & ~WHITE_SHORT;
KEPT_RIGHTS[4] = 15 & ~(WHITE_SHORT | WHITE_LONG);
KEPT_RIGHTS[56] = 15 & ~BLACK_LONG;
KEPT_RIGHTS[63] = 15 & ~BLACK_SHORT;
KEPT_RIGHTS[60] = 15 & ~(BLACK_SHORT | BLACK_LONG);

const SEED = 0x62656b7472612d63n;
const CASTLING_KEYS = 16 * 64;
const EN_PASSANT_KEYS = CASTLING_KEYS + 16;
const SIDE_KEY = EN_PASSANT_KEYS + 8;
const { low: LOW, high: HIGH } = keyTable(SEED, SIDE_KEY + 1);

/**
 * A chess position with the mutable core of the rules: {@link make} and {@link undo} change it in place.
 * Outside `core/` it is treated as immutable; {@link clone} before changing one that others hold.
 */
export class ChessPosition {
  board = new Uint8Array(64);
  side: Side = 0;
  castling = 0;
  /** The square passed over by a pawn's double step in the last move, or -1. */
  enPassant: Square = -1;
  halfmoves = 0;
  fullmoves = 1;
  kings: [Square, Square] = [-1, -1];
  /** The key but for en passant, in two halves; typed arrays spare the boxing of 32-bit fields. */
  private readonly hash = new Int32Array(2);
  private readonly undone = new UndoStack();

  clone(): ChessPosition {
    const copy = new ChessPosition();
    copy.board.set(this.board);
    copy.side = this.side;
    copy.castling = this.castling;
    copy.enPassant = this.enPassant;
    copy.halfmoves = this.halfmoves;
    copy.fullmoves = this.fullmoves;
    copy.kings = [this.kings[0], this.kings[1]];
    copy.hash.set(this.hash);
    return copy;
  }

  /** To be called once after the fields have been set by hand. */
  settle(): this {
    this.hash.fill(0);
    for (let square = 0; square < 64; square++) {
      const piece = this.board[square]!;
      if (piece === 0) continue;
      this.toggle(piece * 64 + square);
      if ((piece & 7) === KING) this.kings[sideOf(piece)] = square;
    }
    this.toggle(CASTLING_KEYS + this.castling);
    if (this.side === 1) this.toggle(SIDE_KEY);
    return this;
  }

  private toggle(index: number): void {
    const { hash } = this;
    hash[0] = hash[0]! ^ LOW[index]!;
    hash[1] = hash[1]! ^ HIGH[index]!;
  }

  /** Plays a pseudo-legal move or {@link NULL_MOVE} in place. */
  make(move: Move): void {
    const { board, side, hash, undone } = this;
    const from = fromOf(move);
    const to = toOf(move);
    const captured = move === NULL_MOVE ? 0 : board[to]!;
    let low = hash[0]!;
    let high = hash[1]!;
    undone.push4(
      move | (captured << 22),
      this.castling | ((this.enPassant + 1) << 4) | (this.halfmoves << 11),
      low,
      high,
    );
    const enPassant = this.enPassant;
    this.enPassant = -1;
    this.halfmoves++;
    this.fullmoves += side;
    if (move !== NULL_MOVE) {
      const piece = board[from]!;
      const type = piece & 7;
      const promotion = promotionOf(move);
      const placed = promotion === 0 ? piece : promotion | (side << 3);
      if (captured !== 0) {
        const index = (captured << 6) | to;
        low ^= LOW[index]!;
        high ^= HIGH[index]!;
        this.halfmoves = 0;
      }
      board[from] = 0;
      board[to] = placed;
      const left = (piece << 6) | from;
      const reached = (placed << 6) | to;
      low ^= LOW[left]! ^ LOW[reached]!;
      high ^= HIGH[left]! ^ HIGH[reached]!;
      if (type === PAWN) {
        this.halfmoves = 0;
        if (to === enPassant) {
          const index = ((PAWN | ((1 - side) << 3)) << 6) | (to ^ 8);
          low ^= LOW[index]!;
          high ^= HIGH[index]!;
          board[to ^ 8] = 0;
        } else if ((from ^ to) === 16) this.enPassant = (from + to) >> 1;
      } else if (type === KING) {
        this.kings[side] = to;
        if (to - from === 2 || from - to === 2) {
          const rookFrom = to > from ? to + 1 : to - 2;
          const rookTo = (from + to) >> 1;
          const rook = ROOK | (side << 3);
          board[rookFrom] = 0;
          board[rookTo] = rook;
          low ^= LOW[(rook << 6) | rookFrom]! ^ LOW[(rook << 6) | rookTo]!;
          high ^= HIGH[(rook << 6) | rookFrom]! ^ HIGH[(rook << 6) | rookTo]!;
        }
      }
      const { castling } = this;
      const rights = castling & KEPT_RIGHTS[from]! & KEPT_RIGHTS[to]!;
      if (rights !== castling) {
        low ^= LOW[CASTLING_KEYS + castling]! ^ LOW[CASTLING_KEYS + rights]!;
        high ^= HIGH[CASTLING_KEYS + castling]! ^ HIGH[CASTLING_KEYS + rights]!;
        this.castling = rights;
      }
    }
    this.side = (1 - side) as Side;
    hash[0] = low ^ LOW[SIDE_KEY]!;
    hash[1] = high ^ HIGH[SIDE_KEY]!;
  }

  /** Takes back the last {@link make}. */
  undo(): void {
    const { undone, board } = this;
    const entry = undone.pop4();
    const { cells } = undone;
    this.hash[0] = cells[entry + 2]!;
    this.hash[1] = cells[entry + 3]!;
    const state = cells[entry + 1]!;
    this.castling = state & 15;
    this.enPassant = ((state >> 4) & 127) - 1;
    this.halfmoves = state >> 11;
    const captured = cells[entry]! >> 22;
    const move = (cells[entry]! & 0x3fffff) as Move;
    this.side = (1 - this.side) as Side;
    this.fullmoves -= this.side;
    if (move === NULL_MOVE) return;
    const from = fromOf(move);
    const to = toOf(move);
    const piece = promotionOf(move) === 0 ? board[to]! : pieceOf(PAWN, this.side);
    board[from] = piece;
    board[to] = captured;
    const type = piece & 7;
    if (type === PAWN && to === this.enPassant) {
      board[to ^ 8] = pieceOf(PAWN, (1 - this.side) as Side);
    } else if (type === KING) {
      this.kings[this.side] = from;
      if (to - from === 2) {
        board[to + 1] = board[to - 1]!;
        board[to - 1] = 0;
      } else if (from - to === 2) {
        board[to - 2] = board[to + 1]!;
        board[to + 1] = 0;
      }
    }
  }

  /** Whether a piece of `by` attacks the square. */
  isAttacked(square: Square, by: Side): boolean {
    const { board } = this;
    const colour = by << 3;
    const pawn = PAWN | colour;
    const pawns = PAWN_ATTACKS[1 - by]![square]!;
    for (let i = 0; i < pawns.length; i++) if (board[pawns[i]!] === pawn) return true;
    const knight = KNIGHT | colour;
    const knights = KNIGHT_TARGETS[square]!;
    for (let i = 0; i < knights.length; i++) if (board[knights[i]!] === knight) return true;
    const rays = RAYS[square]!;
    const queen = QUEEN | colour;
    const king = KING | colour;
    for (let direction = 0; direction < 8; direction++) {
      const slider = (direction < 4 ? ROOK : BISHOP) | colour;
      const ray = rays[direction]!;
      for (let i = 0; i < ray.length; i++) {
        const piece = board[ray[i]!]!;
        if (piece === 0) continue;
        if (piece === slider || piece === queen || (i === 0 && piece === king)) return true;
        break;
      }
    }
    return false;
  }

  inCheck(): boolean {
    return this.isAttacked(this.kings[this.side], (1 - this.side) as Side);
  }

  /**
   * Whether a pseudo-legal move leaves the mover's king safe. `checked`: {@link inCheck} of this position.
   */
  leavesKingSafe(move: Move, checked: boolean): boolean {
    const from = fromOf(move);
    const king = this.kings[this.side];
    const enPassant = toOf(move) === this.enPassant && (this.board[from]! & 7) === PAWN;
    if (!checked && from !== king && !enPassant && DIRECTION[king * 64 + from] === -1) return true;
    const side = this.side;
    this.make(move);
    const safe = !this.isAttacked(this.kings[side], (1 - side) as Side);
    this.undo();
    return safe;
  }

  /** Whether a pawn can legally capture en passant now. */
  enPassantIsLegal(): boolean {
    if (this.enPassant < 0) return false;
    const pawn = pieceOf(PAWN, this.side);
    const origins = PAWN_ATTACKS[1 - this.side]![this.enPassant]!;
    for (const from of origins)
      if (this.board[from] === pawn) {
        const move = (from | (this.enPassant << 7)) as Move;
        if (this.leavesKingSafe(move, true)) return true;
      }
    return false;
  }

  /** 64 bits; the en passant square counts only when a capture is legal. */
  key(): bigint {
    const file = this.enPassantIsLegal() ? EN_PASSANT_KEYS + fileOf(this.enPassant) : -1;
    if (file < 0) return joinKey(this.hash[1]!, this.hash[0]!);
    return joinKey(this.hash[1]! ^ HIGH[file]!, this.hash[0]! ^ LOW[file]!);
  }

  /** Writes all pseudo-legal moves into `into` from index `start` on, and returns the index after the last. */
  pseudoLegalMoves(into: Move[] | Int32Array, start = 0): number {
    let end = start;
    for (let from = 0; from < 64; from++) end = this.movesFrom(from, into, end);
    return end;
  }

  private movesFrom(from: Square, into: Move[] | Int32Array, start: number): number {
    const piece = this.board[from];
    if (!piece || piece >> 3 !== this.side) return start;
    switch (piece & 7) {
      case PAWN:
        return this.pawnMoves(from, into, start);
      case KNIGHT:
        return this.leaperMoves(from, KNIGHT_TARGETS[from]!, into, start);
      case KING:
        return this.castlingMoves(
          from,
          into,
          this.leaperMoves(from, KING_TARGETS[from]!, into, start),
        );
      case ROOK:
        return this.sliderMoves(from, 0, 4, into, start);
      case BISHOP:
        return this.sliderMoves(from, 4, 8, into, start);
      default:
        return this.sliderMoves(from, 0, 8, into, start);
    }
  }

  private leaperMoves(
    from: Square,
    targets: Uint8Array,
    into: Move[] | Int32Array,
    end: number,
  ): number {
    const { board, side } = this;
    for (let i = 0; i < targets.length; i++) {
      const to = targets[i]!;
      const target = board[to]!;
      if (target === 0 || target >> 3 !== side) into[end++] = (from | (to << 7)) as Move;
    }
    return end;
  }

  private sliderMoves(
    from: Square,
    first: number,
    last: number,
    into: Move[] | Int32Array,
    end: number,
  ): number {
    const { board, side } = this;
    const rays = RAYS[from]!;
    for (let direction = first; direction < last; direction++) {
      const ray = rays[direction]!;
      for (let i = 0; i < ray.length; i++) {
        const to = ray[i]!;
        const target = board[to]!;
        if (target === 0 || target >> 3 !== side) into[end++] = (from | (to << 7)) as Move;
        if (target !== 0) break;
      }
    }
    return end;
  }

  private pawnMoves(from: Square, into: Move[] | Int32Array, end: number): number {
    const { board, side } = this;
    const forward = side === 0 ? 8 : -8;
    const one = from + forward;
    if (board[one] === 0) {
      end = this.pawnMove(from, one, into, end);
      const two = one + forward;
      if (rankOf(from) === (side === 0 ? 1 : 6) && board[two] === 0)
        into[end++] = (from | (two << 7)) as Move;
    }
    const attacks = PAWN_ATTACKS[side]![from]!;
    for (let i = 0; i < attacks.length; i++) {
      const to = attacks[i]!;
      const target = board[to]!;
      if (target === 0 ? to === this.enPassant : target >> 3 !== side)
        end = this.pawnMove(from, to, into, end);
    }
    return end;
  }

  private pawnMove(from: Square, to: Square, into: Move[] | Int32Array, end: number): number {
    const rank = to >> 3;
    if (rank !== 0 && rank !== 7) {
      into[end++] = (from | (to << 7)) as Move;
      return end;
    }
    for (let promotion = KNIGHT; promotion <= QUEEN; promotion++)
      into[end++] = (from | (to << 7) | (promotion << 18)) as Move;
    return end;
  }

  private castlingMoves(from: Square, into: Move[] | Int32Array, end: number): number {
    const { board, side } = this;
    const rights = side === 0 ? this.castling : this.castling >> 2;
    if ((rights & 3) === 0) return end;
    const enemy = (1 - side) as Side;
    if (this.isAttacked(from, enemy)) return end;
    if (
      (rights & WHITE_SHORT) !== 0 &&
      board[from + 1] === 0 &&
      board[from + 2] === 0 &&
      !this.isAttacked(from + 1, enemy)
    )
      into[end++] = (from | ((from + 2) << 7)) as Move;
    if (
      (rights & WHITE_LONG) !== 0 &&
      board[from - 1] === 0 &&
      board[from - 2] === 0 &&
      board[from - 3] === 0 &&
      !this.isAttacked(from - 1, enemy)
    )
      into[end++] = (from | ((from - 2) << 7)) as Move;
    return end;
  }

  /** Whether a move is legal, asking of nothing else. */
  isLegal(move: Move): boolean {
    if (move === NULL_MOVE) return false;
    const some: Move[] = [];
    const end = this.movesFrom(fromOf(move), some, 0);
    for (let i = 0; i < end; i++)
      if (some[i] === move) return this.leavesKingSafe(move, this.inCheck());
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
      if (this.leavesKingSafe(move, checked)) moves[kept++] = move;
    }
    moves.length = kept;
    return moves;
  }

  hasLegalMove(): boolean {
    const moves: Move[] = [];
    const end = this.pseudoLegalMoves(moves);
    const checked = this.inCheck();
    for (let i = 0; i < end; i++) if (this.leavesKingSafe(moves[i]!, checked)) return true;
    return false;
  }

  /** Neither side can ever mate: bare kings, one minor piece, or only bishops of one square colour. */
  isInsufficient(): boolean {
    let knights = 0;
    let lightBishops = 0;
    let darkBishops = 0;
    for (let square = 0; square < 64; square++) {
      const type = this.board[square]! & ~BLACK_BIT;
      if (type === 0 || type === KING) continue;
      if (type === KNIGHT) knights++;
      else if (type !== BISHOP) return false;
      else if ((fileOf(square) + rankOf(square)) % 2 === 0) darkBishops++;
      else lightBishops++;
    }
    if (knights > 0) return knights === 1 && lightBishops + darkBishops === 0;
    return lightBishops === 0 || darkBishops === 0;
  }
}
