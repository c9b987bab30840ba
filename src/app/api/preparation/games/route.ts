import * as contract from '@/contract/preparation';
import { checkGames } from '@/server/preparation';
import { serve } from '../../guard';
import { whichOf } from '../which';

export const GET = serve(contract.checkGames, ({ owner, query }) =>
  checkGames(whichOf(owner, query)),
);
