import { readFen } from '@/core/chess/fen';
import {
  boardMove,
  dropMove,
  dropOf,
  fromOf,
  promotionOf,
  toOf,
  type Move,
} from '@/core/game/move';
import type { GameKind, Side } from '@/core/game/ruleset';
import { fileOf, rankOf, squareAt } from '@/core/shogi/board-geometry';
import { readSfen } from '@/core/shogi/sfen';

/** What every compiled module exports of the board that it works on. */
export interface BoardExports {
  clearPosition(): void;
  putPiece(square: number, piece: number): void;
  putHand(owner: number, type: number, count: number): void;
  setState(toMove: number, rights: number, passed: number, count: number): void;
  makeMove(move: number): boolean;
  listedMove(place: number): number;
}

/** How compiled modules number the squares of a game, and how they take a position. */
export interface BoardAdapter {
  toSearch(move: Move): number;
  fromSearch(move: number): Move;
  setUp(exports: BoardExports, position: string): Side;
}

const chessAdapter: BoardAdapter = {
  toSearch: (move) => move,
  fromSearch: (move) => move as Move,
  setUp(exports, text) {
    const { board, side, castling, enPassant, halfmoves } = readFen(text);
    exports.clearPosition();
    board.forEach((piece, square) => piece !== 0 && exports.putPiece(square, piece));
    exports.setState(side, castling, enPassant, halfmoves);
    return side;
  },
};

const rimmed = (square: number): number => fileOf(square) * 11 + rankOf(square);
const unrimmed = (square: number): number => squareAt(Math.floor(square / 11), square % 11);

const shogiAdapter: BoardAdapter = {
  toSearch: (move) =>
    dropOf(move)
      ? dropMove(dropOf(move), rimmed(toOf(move)))
      : boardMove(rimmed(fromOf(move)), rimmed(toOf(move)), promotionOf(move)),
  fromSearch(packed) {
    const move = packed as Move;
    return dropOf(move)
      ? dropMove(dropOf(move), unrimmed(toOf(move)))
      : boardMove(unrimmed(fromOf(move)), unrimmed(toOf(move)), promotionOf(move));
  },
  setUp(exports, text) {
    const { board, hands, side } = readSfen(text);
    exports.clearPosition();
    board.forEach((piece, square) => piece !== 0 && exports.putPiece(rimmed(square), piece));
    for (const owner of [0, 1] as const)
      hands[owner].forEach((count, type) => count > 0 && exports.putHand(owner, type, count));
    exports.setState(side, 0, -1, 0);
    return side;
  },
};

export const adapterOf = (kind: GameKind): BoardAdapter =>
  kind === 'chess' ? chessAdapter : shogiAdapter;
