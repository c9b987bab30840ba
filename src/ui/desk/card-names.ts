/** All cards of the Desk, in the order in which they stand at first. */
export const CARDS = [
  'lines',
  'base',
  'preparation',
  'review',
  'ending',
  'candidates',
  'studies',
  'calculation',
  'position',
  'game',
] as const;
export type CardName = (typeof CARDS)[number];
