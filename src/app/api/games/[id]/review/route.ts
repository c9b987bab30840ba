import { findReview } from '@/contract/review';
import { pliesIn } from '@/core/review/ply-ranges';
import { findGame } from '@/server/games';
import { reviewOf } from '@/server/findings';
import { refuse, serve } from '../../../guard';

/** The latest sweep of a game, and the findings that are shown. */
export const GET = serve(findReview, async ({ owner, id, query }) => {
  const game = await findGame(owner, id);
  if (!game) refuse(404, 'missing');
  const { has, complete, missing } = query;
  return reviewOf(
    owner,
    game,
    has === undefined
      ? null
      : { sweep: has, isComplete: complete !== undefined, isMissing: pliesIn(missing) },
  );
});
