import { otherSide, PositionError, type Side } from '../game/ruleset';
import { fileOf, rankFor, squareAt, squareName } from './board-geometry';
import { SHOGI_START } from './handicaps';
import {
  HAND_ORDER,
  KING,
  letterOfType,
  LETTERS,
  PAWN,
  pieceOf,
  PROMOTED,
  SET_COUNTS,
  sideOf,
  typeOf,
  unpromoted,
} from './pieces';
import { lastRanks, ShogiPosition } from './position';

/**
 * Reads an SFEN; the move number may be missing, and a leading `sfen` and the word `startpos` are understood.
 * @throws PositionError naming the field, or the reason why this can't be a position
 */
export const readSfen = (text: string): ShogiPosition =>
  text === SHOGI_START ? (usual ??= read(text)).clone() : read(text);

/** Where nearly all games start: read once. */
let usual: ShogiPosition | null = null;

function read(text: string): ShogiPosition {
  const trimmed = text.trim().replace(/^sfen\s+/, '');
  const fields = (trimmed === 'startpos' ? SHOGI_START : trimmed).split(/\s+/);
  const [placement, side, hands, ply = '1'] = fields;
  if (fields.length < 3 || fields.length > 4)
    throw new PositionError('sfen.fields', { found: fields.length });
  const position = new ShogiPosition();
  readPlacement(position, placement!);
  if (side !== 'b' && side !== 'w') throw new PositionError('sfen.side', { found: side! });
  position.side = side === 'b' ? 0 : 1;
  readHands(position, hands!);
  if (!/^\d{1,5}$/.test(ply)) throw new PositionError('sfen.ply', { found: ply });
  position.ply = Math.max(1, Number(ply));
  return validated(position.settle());
}

function readPlacement(position: ShogiPosition, placement: string): void {
  const rows = placement.split('/');
  if (rows.length !== 9) throw new PositionError('sfen.rows', { found: rows.length });
  rows.forEach((row, index) => {
    let file = 9;
    let promoted = false;
    for (const letter of row) {
      if (letter >= '1' && letter <= '9' && !promoted) {
        file -= Number(letter);
        continue;
      }
      if (letter === '+' && !promoted) {
        promoted = true;
        continue;
      }
      const base = LETTERS.indexOf(letter.toUpperCase() as 'P');
      if (base < 1 || (promoted && base > 6))
        throw new PositionError('sfen.letter', { found: letter, row: index + 1 });
      if (file < 1) throw new PositionError('sfen.rowLength', { row: index + 1 });
      const owner = letter === letter.toUpperCase() ? 0 : 1;
      position.board[squareAt(file, index + 1)] = pieceOf(base + (promoted ? PROMOTED : 0), owner);
      promoted = false;
      file--;
    }
    if (file !== 0 || promoted) throw new PositionError('sfen.rowLength', { row: index + 1 });
  });
}

function readHands(position: ShogiPosition, text: string): void {
  if (text === '-') return;
  if (!/^(\d{0,2}[PLNSBRGplnsbrg])+$/.test(text))
    throw new PositionError('sfen.hands', { found: text });
  for (const [, count, letter] of text.matchAll(/(\d*)([A-Za-z])/g)) {
    const side = letter === letter!.toUpperCase() ? 0 : 1;
    const type = LETTERS.indexOf(letter!.toUpperCase() as 'P');
    const hand = position.hands[side];
    hand[type] = hand[type]! + (count === '' ? 1 : Number(count));
  }
}

/**
 * Returns a settled position that can be one.
 * @throws PositionError with the reason otherwise
 */
export function validated(position: ShogiPosition): ShogiPosition {
  const counts = new Array<number>(9).fill(0);
  for (const hand of position.hands) for (const type of HAND_ORDER) counts[type]! += hand[type]!;
  const pawnFiles = new Set<number>();
  const kings = [0, 0];
  position.board.forEach((piece, square) => {
    if (piece === 0) return;
    const type = typeOf(piece);
    const side = sideOf(piece);
    counts[unpromoted(type)]!++;
    if (type === KING) kings[side]!++;
    if (type < KING && rankFor(square, side) <= lastRanks(type))
      throw new PositionError('position.deadPiece', {
        piece: letterOfType(type),
        square: squareName(square),
      });
    if (type !== PAWN) return;
    const file = side * 10 + fileOf(square);
    if (pawnFiles.has(file))
      throw new PositionError('position.nifu', { file: fileOf(square), side: nameOf(side) });
    pawnFiles.add(file);
  });
  for (const side of [0, 1] as const)
    if (kings[side]! > 1) throw new PositionError('position.manyKings', { side: nameOf(side) });
  if (kings[0]! + kings[1]! === 0) throw new PositionError('position.noKings');
  SET_COUNTS.forEach((most, type) => {
    if (counts[type]! > most)
      throw new PositionError('position.tooMany', {
        piece: letterOfType(type),
        found: counts[type]!,
        most,
      });
  });
  const idle = otherSide(position.side);
  if (position.isInCheck(idle))
    throw new PositionError('position.idleInCheck', { side: nameOf(idle) });
  return position;
}

const nameOf = (side: Side): string => (side === 0 ? 'black' : 'white');

/** Writes all four fields. */
export function writeSfen(position: ShogiPosition): string {
  const rows: string[] = [];
  for (let rank = 1; rank <= 9; rank++) {
    let row = '';
    let empty = 0;
    for (let file = 9; file >= 1; file--) {
      const piece = position.board[squareAt(file, rank)]!;
      if (piece === 0) {
        empty++;
        continue;
      }
      if (empty > 0) row += empty;
      empty = 0;
      const letter = letterOfType(typeOf(piece));
      row += sideOf(piece) === 0 ? letter : letter.toLowerCase();
    }
    rows.push(empty > 0 ? row + empty : row);
  }
  const side = position.side === 0 ? 'b' : 'w';
  return `${rows.join('/')} ${side} ${writeHands(position)} ${position.ply}`;
}

function writeHands(position: ShogiPosition): string {
  let text = '';
  for (const side of [0, 1] as const)
    for (const type of HAND_ORDER) {
      const count = position.hands[side][type]!;
      if (count === 0) continue;
      const letter = LETTERS[type]!;
      text += (count > 1 ? count : '') + (side === 0 ? letter : letter.toLowerCase());
    }
  return text || '-';
}
