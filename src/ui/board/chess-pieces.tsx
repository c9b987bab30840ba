import { KING, KNIGHT, PAWN, BISHOP, ROOK, QUEEN, sideOf, typeOf } from '@/core/chess/pieces';

/** Drawn on a square of 100 × 100: plain geometry over one common foot, told apart by the head alone. */
const FOOT = 'M24 88h52v-9H24z';
const SHAPES: Record<number, readonly string[]> = {
  [PAWN]: ['M38 74h24l-5-24H43z', 'M50 20a15 15 0 1 1 0 30a15 15 0 1 1 0-30z', 'M30 88h40v-9H30z'],
  [KNIGHT]: [
    'M33 76h39c2-24-1-44-23-55l-5-10l-6 10c-8 6-14 17-17 27l5 9l11-2l8-7c-2 13-12 16-12 28z',
    FOOT,
  ],
  [BISHOP]: [
    'M35 76h30l-6-18H41z',
    'M50 18c11 9 17 18 17 27c0 8-6 13-17 13s-17-5-17-13c0-9 6-18 17-27z',
    'M50 8a5 5 0 1 1 0 10a5 5 0 1 1 0-10z',
    FOOT,
  ],
  [ROOK]: ['M27 16h11v8h7v-8h10v8h7v-8h11v20H27z', 'M34 76h32l-3-40H37z', FOOT],
  [QUEEN]: [
    'M29 76h42l11-42l-17 17l-4-26l-11 24l-11-24l-4 26l-17-17z',
    'M18 25a5 5 0 1 1 0 10a5 5 0 1 1 0-10zM39 14a5 5 0 1 1 0 10a5 5 0 1 1 0-10zM61 14a5 5 0 1 1 0 10a5 5 0 1 1 0-10zM82 25a5 5 0 1 1 0 10a5 5 0 1 1 0-10z',
    FOOT,
  ],
  [KING]: [
    'M30 76h40l9-34c-10-7-20-5-29 5c-9-10-19-12-29-5z',
    'M46 8h8v8h8v8h-8v16h-8V24h-8v-8h8z',
    FOOT,
  ],
};

/** Lines inside a piece, in the colour of the other side. */
const DETAILS: Record<number, string> = {
  [KNIGHT]: 'M37 36h1',
  [BISHOP]: 'M50 30v16M43 38h14',
  [KING]: 'M34 67h32',
  [QUEEN]: 'M33 67h34',
  [ROOK]: 'M37 44h26',
};

/** A chess piece, its upper left corner at the origin of its parent. */
export function ChessPiece({ piece }: { piece: number }) {
  const type = typeOf(piece);
  const white = sideOf(piece) === 0;
  return (
    <g className={white ? 'piece-w' : 'piece-b'} strokeWidth={4.4} strokeLinejoin="round">
      {SHAPES[type]!.map((path) => (
        <path key={path} d={path} />
      ))}
      {DETAILS[type] && (
        <path
          d={DETAILS[type]}
          fill="none"
          strokeLinecap="round"
          strokeWidth={type === KNIGHT ? 7 : 4}
          style={{ stroke: white ? 'var(--piece-line)' : 'var(--piece-white)' }}
        />
      )}
    </g>
  );
}
