import type { SearchRequest } from '@/engine/contract';

/** A search that goes on until it is stopped, for engines that look at nothing of it. */
export const ENDLESS: SearchRequest = {
  kind: 'chess',
  root: { position: 'start', repeated: [], moveCount: 1 },
  limits: {},
  lines: 1,
  fresh: false,
};
