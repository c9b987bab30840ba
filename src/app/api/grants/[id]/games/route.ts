import { Written } from '@/contract/contract';
import { readFilter } from '@/contract/game-filter';
import { givenFilter, givenOrder, listGiven, readOrder } from '@/contract/library';
import { collectionGiven } from '@/server/grants';
import { writtenGames } from '@/server/library';
import { serve } from '../../../guard';

/** A stretch of somebody else's library. */
export const GET = serve(listGiven, async ({ owner, id, query }) => {
  const { from, count, sort } = query;
  const filter = givenFilter(readFilter(query), await collectionGiven(owner, id));
  const stretch = { order: givenOrder(readOrder(sort)), from, count };
  const { json } = await writtenGames(owner, filter, stretch);
  return new Written(`{"games":${json}}`);
});
