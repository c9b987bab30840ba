import * as contract from '@/contract/games';
import { limitProblem } from '@/core/game/problem';
import { fromJson } from '@/core/game/serial';
import { treeLimit } from '@/core/game/tree';
import { createGame } from '@/server/games';
import { refuse, serve } from '../guard';

/** Stores a game entered by hand. */
export const POST = serve(contract.createGame, async ({ owner, query, body }) => {
  const record = readRecord(body);
  const limit = treeLimit(record.tree);
  if (limit) refuse(422, 'limit', limitProblem(limit));
  return createGame(owner, record, query.copy !== undefined);
});

function readRecord(json: Parameters<typeof fromJson>[0]) {
  try {
    return fromJson(json, { legality: 'checked' });
  } catch (error) {
    refuse(400, 'malformed', (error as Error).message.slice(0, 200));
  }
}
