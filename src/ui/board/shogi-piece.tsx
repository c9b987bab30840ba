import { KING, letterOfType, LETTERS, sideOf, typeOf, unpromoted } from '@/core/shogi/pieces';

export type PieceStyle = 'kanji' | 'letters';

/** One kanji for each type: promoted ones by the short form that boards carry. */
const KANJI = [
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
  '杏',
  '圭',
  '全',
  '馬',
  '龍',
];

/** How large a piece is: kings are the largest, pawns the smallest. */
const SCALE = [0, 0.84, 0.86, 0.88, 0.92, 0.97, 0.97, 0.92, 1];

const OUTLINE = 'M50 8L78 20L88 92H12L22 20z';

/** A shogi piece on a square of 100 × 100, pointing up for Black and down for White, or the other way round. */
export function ShogiPiece({
  piece,
  flipped,
  style,
}: {
  piece: number;
  flipped: boolean;
  style: PieceStyle;
}) {
  const type = typeOf(piece);
  const scale = SCALE[unpromoted(type)]!;
  const down = (sideOf(piece) === 1) !== flipped;
  const promoted = type > KING;
  const text =
    style === 'kanji'
      ? type === KING && sideOf(piece) === 1
        ? '王'
        : KANJI[type]
      : letterText(type);
  return (
    <g
      className={promoted ? 'shogi-piece promoted' : 'shogi-piece'}
      transform={`rotate(${down ? 180 : 0} 50 50) translate(50 52) scale(${scale}) translate(-50 -52)`}
    >
      <path d={OUTLINE} strokeLinejoin="round" />
      {style === 'kanji' ? (
        <text x={50} y={76} fontSize={55}>
          {text}
        </text>
      ) : (
        <text className="letter" x={50} y={74} fontSize={promoted ? 42 : 50}>
          {text}
        </text>
      )}
    </g>
  );
}

const letterText = (type: number): string => (type > KING ? letterOfType(type) : LETTERS[type]!);
