import { findReview } from '@/contract/review';
import { findGame } from '@/server/games';
import { reviewOf } from '@/server/findings';
import { refuse, serve } from '../../../guard';

/** The latest sweep of a game, and the findings that are shown. */
export const GET = serve(findReview, async ({ owner, id, query }) => {
  const game = await findGame(owner, id);
  if (!game) refuse(404, 'missing');
  const { has, complete, known } = query;
  return reviewOf(
    owner,
    game,
    has === undefined ? null : { sweep: has, isComplete: complete !== undefined, answers: known },
  );
});
