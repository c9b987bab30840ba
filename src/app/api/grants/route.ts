import * as contract from '@/contract/grants';
import { give, grantsBy } from '@/server/grants';
import { refuse, serve } from '../guard';

const STATUS = { missing: 404, nobody: 422, self: 422, tooMany: 429 } as const;

export const GET = serve(contract.listGrants, ({ owner, query }) => grantsBy(owner, query.game));

/** Gives a game, a collection or all one's games to somebody, or makes a link to it. */
export const POST = serve(contract.makeGrant, async ({ owner, body }) => {
  const given = await give(owner, body);
  if (typeof given === 'string') refuse(STATUS[given], given);
  return given;
});
