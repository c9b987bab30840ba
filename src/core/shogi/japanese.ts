import { dropOf, fromOf, promotionOf, toOf, type Move, type Square } from '../game/move';
import { fileOf, rankFor, rankOf, squareAt } from './board-geometry';
import { canPromote, DRAGON, HORSE, LETTERS, typeOf } from './pieces';
import type { ShogiPosition } from './position';
import { rivalsOf } from './western';

const WIDE_DIGITS = '０１２３４５６７８９';
const KANJI_DIGITS = '〇一二三四五六七八九';

/** Names by piece type, as KIF writes them. */
export const PIECE_NAMES = [
  '',
  '歩',
  '香',
  '桂',
  '銀',
  '角',
  '飛',
  '金',
  '玉',
  'と',
  '成香',
  '成桂',
  '成銀',
  '馬',
  '龍',
] as const;

/** The name of a piece that western notation writes with a letter. */
export const nameOfLetter = (letter: string): string =>
  PIECE_NAMES[(LETTERS as readonly string[]).indexOf(letter)] ?? letter;

/** Piece types by their names, and by those that files use besides. */
const TYPES = new Map<string, number>([
  ...PIECE_NAMES.map((name, type) => [name, type] as const),
  ['王', 8],
  ['杏', 10],
  ['圭', 11],
  ['全', 12],
  ['竜', 14],
]);

export const typeOfName = (name: string): number => TYPES.get(name) ?? -1;

export const PIECE_PATTERN = '成香|成桂|成銀|[歩香桂銀角飛金玉王と杏圭全馬龍竜]';

/** `７六`. */
export const writeSquare = (square: Square): string =>
  WIDE_DIGITS[fileOf(square)]! + KANJI_DIGITS[rankOf(square)]!;

const DIGITS = new Map(
  [WIDE_DIGITS, KANJI_DIGITS, '0123456789'].flatMap((digits) =>
    Array.from(digits, (letter, digit) => [letter, digit] as const),
  ),
);
const digitOf = (letter: string | undefined): number => DIGITS.get(letter ?? '') ?? -1;

/** The square of `７六`, `76` or `7六`, or -1. */
export function readSquare(text: string): Square {
  const file = digitOf(text[0]);
  const rank = digitOf(text[1]);
  return file >= 1 && rank >= 1 ? squareAt(file, rank) : -1;
}

export const SQUARE_PATTERN = `[1-9１-９][1-9１-９一二三四五六七八九]`;

/** A move with its square, piece, signs and what else it says; of `同` the square is left out. */
export const MOVE_PATTERN = `[▲△▽▼☗☖]?(?:(${SQUARE_PATTERN})|同[\\s　]*)(${PIECE_PATTERN})([右左直上寄引行]*)(不成|成|打)?`;

/** How a candidate moves, as the signs for it say, seen by the mover. */
function matchesSign(position: ShogiPosition, move: Move, sign: string): boolean {
  const { side } = position;
  const from = fromOf(move);
  const to = toOf(move);
  const change = rankFor(to, side) - rankFor(from, side);
  switch (sign) {
    case '上':
    case '行':
      return change < 0;
    case '引':
      return change > 0;
    case '寄':
      return change === 0;
    default:
      return sign === '直' && change === -1 && fileOf(from) === fileOf(to);
  }
}

/** Keeps the candidates that the signs (右 左 直 上 寄 引 行) point at. */
function pointedAt(position: ShogiPosition, candidates: readonly Move[], signs: string): Move[] {
  let left = [...candidates];
  const fileFor = (move: Move): number =>
    position.side === 0 ? fileOf(fromOf(move)) : 10 - fileOf(fromOf(move));
  for (const sign of signs)
    if (sign !== '右' && sign !== '左')
      left = left.filter((move) => matchesSign(position, move, sign));
  for (const sign of signs) {
    if ((sign !== '右' && sign !== '左') || left.length === 0) continue;
    const files = left.map(fileFor);
    const wanted = sign === '右' ? Math.min(...files) : Math.max(...files);
    left = left.filter((move) => fileFor(move) === wanted);
  }
  return left;
}

/**
 * The legal moves that a match of {@link MOVE_PATTERN} may stand for: none, one, or several that its signs don't tell apart.
 * A drop is meant only where it says so or no piece on the board could move there.
 * @param previous target square of the move before, for 同; -1 where there is none
 */
export function movesWritten(
  position: ShogiPosition,
  [, square, name, signs, action]: RegExpExecArray,
  previous: Square,
): Move[] {
  const to = square === undefined ? previous : readSquare(square);
  const type = typeOfName(name!);
  const fitting = position.legalMoves().filter((move) => {
    if (toOf(move) !== to) return false;
    if (dropOf(move)) return dropOf(move) === type && action !== '成' && action !== '不成';
    if (action === '打' || typeOf(position.board[fromOf(move)]!) !== type) return false;
    return (promotionOf(move) === 1) === (action === '成');
  });
  const onBoard = fitting.filter((move) => dropOf(move) === 0);
  return onBoard.length === 0 ? fitting.slice(0, 1) : pointedAt(position, onBoard, signs!);
}

/** The signs that tell a board move from its rivals, as short as they can be. */
function signsFor(position: ShogiPosition, move: Move, rivals: readonly Move[]): string {
  if (rivals.length === 0) return '';
  const candidates = [move, ...rivals];
  const type = typeOf(position.board[fromOf(move)]!);
  const straight = type === HORSE || type === DRAGON ? [] : ['直'];
  const ways = ['上', '寄', '引'];
  const sides = ['右', '左'];
  const choices = [
    ...ways,
    ...straight,
    ...sides,
    ...sides.flatMap((side) => ways.map((way) => side + way)),
  ];
  const fitting = choices.find((signs) => {
    const left = pointedAt(position, candidates, signs);
    return left.length === 1 && left[0] === move;
  });
  return fitting ?? '';
}

/**
 * A legal move in Japanese: `７六歩`, `同　銀`, `２二角成`, `５八金右`, `４五桂打`, `３三銀不成`.
 * @param previous target square of the move before, for 同; -1 where there is none
 */
export function writeJapanese(position: ShogiPosition, move: Move, previous: Square): string {
  const to = toOf(move);
  const square = to === previous ? '同　' : writeSquare(to);
  const dropped = dropOf(move);
  if (dropped !== 0) {
    const piece = dropped | (position.side << 4);
    const rival = position
      .legalMoves()
      .some(
        (other) =>
          dropOf(other) === 0 && toOf(other) === to && position.board[fromOf(other)] === piece,
      );
    return writeSquare(to) + PIECE_NAMES[dropped] + (rival ? '打' : '');
  }
  const from = fromOf(move);
  const type = typeOf(position.board[from]!);
  const signs = signsFor(position, move, rivalsOf(position, move));
  const inZone = rankFor(from, position.side) <= 3 || rankFor(to, position.side) <= 3;
  const promotion = promotionOf(move) ? '成' : inZone && canPromote(type) ? '不成' : '';
  const name = PIECE_NAMES[type]!;
  return (square + name + signs + promotion).replace('同　成', '同成');
}
