import { Written } from '@/contract/contract';
import { readFilter } from '@/contract/game-filter';
import * as contract from '@/contract/games';
import { changeGames, listGames, readOrder } from '@/contract/library';
import * as many from '@/server/change-games';
import { createGame } from '@/server/games';
import * as library from '@/server/library';
import { refuse, serve } from '../guard';
import { readRecord } from '../read-record';

/** Stores a game entered by hand. */
export const POST = serve(contract.createGame, ({ owner, query, body }) =>
  createGame(owner, readRecord(body), query.copy !== undefined),
);

/** A stretch of the library. */
export const GET = serve(listGames, async ({ owner, query }) => {
  const { from, count, sort } = query;
  const stretch = { order: readOrder(sort), from, count };
  const { json } = await library.writtenGames(owner, readFilter(query), stretch);
  return new Written(`{"games":${json}}`);
});

/** Does something with many games. */
export const PUT = serve(changeGames, async ({ owner, body: { games, change } }) => {
  const now = new Date();
  const changed = await many.changeGames(owner, games, change, now);
  if (changed === 'missing') refuse(404, changed);
  return { games: changed, deleted: change.do === 'delete' ? now.toISOString() : null };
});
