/** Points of side 0, then of side 1; `*`: unknown or unfinished. */
export const RESULTS = ['1-0', '0-1', '1/2-1/2', '*'] as const;
export type Result = (typeof RESULTS)[number];

/** How a game came to its end. */
export const END_REASONS = [
  'checkmate',
  'resignation',
  'time',
  'stalemate',
  'repetition',
  'perpetual check',
  'fifty moves',
  'seventy-five moves',
  'insufficient',
  'agreement',
  'impasse',
  'declaration',
  'illegal move',
  'forfeit',
  'abandoned',
  'interrupted',
  'move limit',
  'adjudication',
  'takeback',
  'no mate',
  'error',
] as const;
export type EndReason = (typeof END_REASONS)[number];

/** The result when `winner` wins. */
export const winFor = (winner: 0 | 1): '1-0' | '0-1' => (winner === 0 ? '1-0' : '0-1');
