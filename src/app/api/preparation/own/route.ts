import * as contract from '@/contract/preparation';
import { prepareFromGames } from '@/server/preparation-sheets';
import { serve } from '../../guard';
import { addedOr, whichOf } from '../which';

export const POST = serve(contract.prepareFromGames, async ({ owner, query, body }) =>
  addedOr(await prepareFromGames(whichOf(owner, query), body)),
);
