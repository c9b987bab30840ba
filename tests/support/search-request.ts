import type { Question } from '@/core/ask/question';

/** A search that goes on until it is stopped, for engines that look at nothing of it. */
export const ENDLESS: Question = {
  kind: 'chess',
  root: { position: 'start', repeated: [], moveCount: 1 },
  budget: {},
  lines: 1,
  fresh: false,
};
