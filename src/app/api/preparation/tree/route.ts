import { readNumbers } from '@/contract/game-filter';
import * as contract from '@/contract/preparation';
import { showPreparation } from '@/server/preparation';
import { refuse, serve } from '../../guard';
import { whichOf } from '../which';

export const GET = serve(contract.showPreparation, async ({ owner, query }) => {
  const { base, rating } = query;
  const opponents =
    base === undefined
      ? null
      : { base, rating: rating === undefined ? undefined : readNumbers(rating) };
  return (await showPreparation(whichOf(owner, query), opponents)) ?? refuse(404, 'missing');
});
