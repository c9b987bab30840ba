import { readFilter } from '@/contract/game-filter';
import { givenFilter, givenOrder, listGiven, readOrder } from '@/contract/library';
import { collectionGiven } from '@/server/grants';
import { listGivenGames } from '@/server/library';
import { refuse, serve } from '../../../guard';

/** A stretch of somebody else's library. */
export const GET = serve(listGiven, async ({ owner, id, query }) => {
  const { from, count, sort } = query;
  const collection = await collectionGiven(owner, id);
  if (collection === undefined) refuse(404, 'missing');
  const filter = givenFilter(readFilter(query), collection);
  const stretch = { order: givenOrder(readOrder(sort)), from, count };
  return { games: await listGivenGames(owner, filter, stretch) };
});
