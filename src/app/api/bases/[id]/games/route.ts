import * as contract from '@/contract/bases';
import { listBaseGames } from '@/server/base-answers';
import { serve } from '../../../guard';
import { answered } from '../answered';

export const GET = serve(
  contract.listBaseGames,
  async ({ owner, account, id, query: { position, move, order, ...filter } }) =>
    answered(await listBaseGames(owner, id, position, filter, { move, order }, account)),
);
