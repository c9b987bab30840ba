import type { WhichPreparation } from '@/contract/preparation';
import { sideOfWord } from '@/contract/shapes';
import type { Added, NotAdded, Which } from '@/server/preparation-sheets';
import type { Owner } from '@/server/owner';
import { refuse } from '../guard';

/** Whose preparation a request is about. */
export const whichOf = (owner: Owner, query: WhichPreparation): Which & { owner: Owner } => ({
  owner,
  kind: query.kind,
  side: sideOfWord(query.side),
});

const STATUS = { missing: 404, unfit: 422, full: 422, none: 422, tooMany: 429 } as const;

/** What was added; refused where nothing could be. */
export const addedOr = (outcome: Added | NotAdded | 'none'): Added =>
  typeof outcome === 'string' ? refuse(STATUS[outcome], outcome) : outcome;
