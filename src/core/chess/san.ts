import {
  fileOf,
  KING_TARGETS,
  KNIGHT_TARGETS,
  PAWN_ATTACKS,
  RAYS,
  rankOf,
  squareName,
} from './board-geometry';
import { BISHOP, KING, KNIGHT, LETTERS, PAWN, pieceOf, QUEEN, ROOK } from './pieces';
import type { ChessPosition } from './position';
import {
  boardMove,
  fromOf,
  NULL_MOVE,
  promotionOf,
  toOf,
  type Move,
  type Square,
} from '../game/move';

/** The SAN of a legal move, with check and mate signs; `--` for the null move. */
export function writeSan(position: ChessPosition, move: Move): string {
  if (move === NULL_MOVE) return '--';
  const body = writeBody(position, move);
  position.make(move);
  const suffix = position.inCheck() ? (position.hasLegalMove() ? '+' : '#') : '';
  position.undo();
  return body + suffix;
}

function writeBody(position: ChessPosition, move: Move): string {
  const from = fromOf(move);
  const to = toOf(move);
  const type = position.board[from]! & 7;
  if (type === KING && Math.abs(to - from) === 2) return to > from ? 'O-O' : 'O-O-O';
  const captures =
    position.board[to] !== 0 || (type === PAWN && fileOf(from) !== fileOf(to)) ? 'x' : '';
  if (type === PAWN) {
    const promotion = promotionOf(move);
    const origin = captures ? squareName(from)[0]! : '';
    return origin + captures + squareName(to) + (promotion ? `=${LETTERS[promotion]}` : '');
  }
  return LETTERS[type]! + disambiguation(position, type, from, to) + captures + squareName(to);
}

function disambiguation(position: ChessPosition, type: number, from: Square, to: Square): string {
  if (type === KING) return '';
  const checked = position.inCheck();
  const rivals = originsOf(position, type, to).filter(
    (square) => square !== from && position.leavesKingSafe(boardMove(square, to), checked),
  );
  if (rivals.length === 0) return '';
  const name = squareName(from);
  if (!rivals.some((square) => fileOf(square) === fileOf(from))) return name[0]!;
  if (!rivals.some((square) => rankOf(square) === rankOf(from))) return name[1]!;
  return name;
}

/** Squares from which a piece of the type and of the side to move reaches `to` (castling left out). */
function originsOf(position: ChessPosition, type: number, to: Square): Square[] {
  const { board, side } = position;
  const piece = pieceOf(type, side);
  const origins: Square[] = [];
  if (type === KNIGHT || type === KING) {
    const targets = (type === KNIGHT ? KNIGHT_TARGETS : KING_TARGETS)[to]!;
    for (let i = 0; i < targets.length; i++)
      if (board[targets[i]!] === piece) origins.push(targets[i]!);
    return origins;
  }
  if (type === PAWN) return pawnOrigins(position, to);
  const rays = RAYS[to]!;
  for (let direction = type === BISHOP ? 4 : 0; direction < (type === ROOK ? 4 : 8); direction++) {
    const ray = rays[direction]!;
    for (let i = 0; i < ray.length; i++) {
      if (board[ray[i]!] === 0) continue;
      if (board[ray[i]!] === piece) origins.push(ray[i]!);
      break;
    }
  }
  return origins;
}

function pawnOrigins(position: ChessPosition, to: Square): Square[] {
  const { board, side } = position;
  const pawn = pieceOf(PAWN, side);
  const target = board[to]!;
  if (target !== 0 || to === position.enPassant)
    return [...PAWN_ATTACKS[1 - side]![to]!].filter((square) => board[square] === pawn);
  const one = to - (side === 0 ? 8 : -8);
  if (one < 0 || one > 63) return [];
  if (board[one] === pawn) return [one];
  const two = one - (side === 0 ? 8 : -8);
  if (board[one] === 0 && rankOf(to) === (side === 0 ? 3 : 4) && board[two] === pawn) return [two];
  return [];
}

/** What a written move was found to be. */
export type SanReading = { move: Move } | { problem: 'malformed' | 'illegal' | 'ambiguous' };

const FIGURINES: Readonly<Record<string, string>> = {
  '♔': 'K',
  '♚': 'K',
  '♕': 'Q',
  '♛': 'Q',
  '♖': 'R',
  '♜': 'R',
  '♗': 'B',
  '♝': 'B',
  '♘': 'N',
  '♞': 'N',
  '♙': '',
  '♟': '',
};

const PIECE_MOVE =
  /^([KQRBNP]?)([a-h]?)([1-8]?)[-x:]?([a-h])([1-8])(?:[=/]?\(?([QRBNqrbn])\)?)?(?:e\.?p\.?)?$/;
const SHORT_CAPTURE = /^([a-h])[x:]?([a-h])(?:=?\(?([QRBN])\)?)?$/;
const LONG_CASTLING = /^[O0o]-?[O0o]-?[O0o]$/;
const SHORT_CASTLING = /^[O0o]-?[O0o]$/;

/**
 * Reads SAN leniently: signs may be missing or extra, disambiguation more or less than needed, origins spelt out,
 * castling with zeros, promotion with or without `=`, figurines, `--` and `Z0`, short pawn captures.
 */
export function readSan(position: ChessPosition, text: string): SanReading {
  let body = text;
  if (body.charCodeAt(0) > 127 || body.charCodeAt(body.length - 1) > 127)
    body = body.replace(/[♔-♟]\ufe0e?/gu, (figurine) => FIGURINES[figurine[0]!] ?? figurine);
  let end = body.length;
  while (end > 0 && '+#!?□'.includes(body[end - 1]!)) end--;
  if (end < body.length) body = body.slice(0, end);
  const plain = readPlain(position, body);
  if (plain) return plain;
  const first = body.charCodeAt(0);
  if (first === 79 || first === 48 || first === 111) {
    if (LONG_CASTLING.test(body)) return readCastling(position, -2);
    if (SHORT_CASTLING.test(body)) return readCastling(position, 2);
  }
  if (body === '--' || body === 'Z0' || body === '@@@@') return { move: NULL_MOVE };
  const match = PIECE_MOVE.exec(body);
  if (match) return readPieceMove(position, match);
  const short = SHORT_CAPTURE.exec(body);
  if (short) return readShortCapture(position, short);
  return { problem: 'malformed' };
}

/** What most moves are: a piece's letter, a capture's sign and the square, or of a pawn the square alone; null for all else. */
function readPlain(position: ChessPosition, body: string): SanReading | null {
  const end = body.length - 2;
  if (end < 0) return null;
  const [file, rank] = [body.charCodeAt(end) - 97, body.charCodeAt(end + 1) - 49];
  if (!(file >= 0 && file < 8 && rank >= 0 && rank < 8)) return null;
  const type = end === 0 ? PAWN : PIECE_LETTERS.indexOf(body[0]!);
  const isPlain = end < 2 || (end === 2 && body.charCodeAt(1) === 120);
  if (type < 0 || !isPlain) return null;
  const to = file + 8 * rank;
  return fromOrigins(position, type, originsOf(position, type, to), to, 0);
}

/** Letters of the pieces that are named by one, each at its type. */
const PIECE_LETTERS = '--NBRQK';

function readCastling(position: ChessPosition, step: number): SanReading {
  const king = position.kings[position.side];
  const move = boardMove(king, king + step);
  return position.isLegal(move) ? { move } : { problem: 'illegal' };
}

const promotionType = (letter: string | undefined): number =>
  letter ? LETTERS.indexOf(letter.toUpperCase() as 'Q') : 0;

function readPieceMove(position: ChessPosition, match: RegExpExecArray): SanReading {
  const [, letter, file, rank, toFile, toRank, promotionLetter] = match;
  const to = toFile!.charCodeAt(0) - 97 + 8 * (toRank!.charCodeAt(0) - 49);
  const promotion = promotionType(promotionLetter);
  if (letter === '' && file !== '' && rank !== '') {
    const from = file!.charCodeAt(0) - 97 + 8 * (rank!.charCodeAt(0) - 49);
    return readOrigin(position, from, to, promotion);
  }
  const type = letter === '' ? PAWN : LETTERS.indexOf(letter as 'K');
  let origins = originsOf(position, type, to);
  if (file !== '') origins = origins.filter((s) => fileOf(s) === file!.charCodeAt(0) - 97);
  if (rank !== '') origins = origins.filter((s) => rankOf(s) === rank!.charCodeAt(0) - 49);
  return fromOrigins(position, type, origins, to, promotion);
}

function fromOrigins(
  position: ChessPosition,
  type: number,
  origins: readonly Square[],
  to: Square,
  promotion: number,
): SanReading {
  if (type === KING && origins.length === 0) {
    const king = position.kings[position.side];
    if (Math.abs(to - king) === 2 && rankOf(to) === rankOf(king))
      return readCastling(position, to - king);
  }
  return choose(position, type, origins, to, promotion);
}

function readOrigin(position: ChessPosition, from: Square, to: Square, promotion: number) {
  const candidates = [boardMove(from, to, promotion)];
  if (promotion === 0) candidates.push(boardMove(from, to, QUEEN));
  const move = candidates.find((candidate) => position.isLegal(candidate));
  if (move !== undefined) return { move };
  return { problem: 'illegal' } as const;
}

function choose(
  position: ChessPosition,
  type: number,
  origins: readonly Square[],
  to: Square,
  promotion: number,
): SanReading {
  const promotes = type === PAWN && (rankOf(to) === 0 || rankOf(to) === 7);
  if (promotes === (promotion === 0)) {
    if (!promotes) return { problem: 'illegal' };
    promotion = QUEEN;
  }
  const target = position.board[to]!;
  if (target !== 0 && target >> 3 === position.side) return { problem: 'illegal' };
  const checked = origins.length > 0 && position.inCheck();
  const legal = origins.filter((from) =>
    position.leavesKingSafe(boardMove(from, to, promotion), checked),
  );
  if (legal.length > 1) return { problem: 'ambiguous' };
  if (legal.length === 0) return { problem: 'illegal' };
  return { move: boardMove(legal[0]!, to, promotion) };
}

function readShortCapture(position: ChessPosition, match: RegExpExecArray): SanReading {
  const from = match[1]!.charCodeAt(0) - 97;
  const to = match[2]!.charCodeAt(0) - 97;
  const promotion = promotionType(match[3]);
  const fitting = position.legalMoves().filter((move) => {
    const isPawn = (position.board[fromOf(move)]! & 7) === PAWN;
    if (!isPawn || fileOf(fromOf(move)) !== from || fileOf(toOf(move)) !== to) return false;
    return promotionOf(move) === (promotionOf(move) !== 0 && promotion === 0 ? QUEEN : promotion);
  });
  if (from === to || fitting.length === 0) return { problem: 'illegal' };
  return fitting.length === 1 ? { move: fitting[0]! } : { problem: 'ambiguous' };
}
