import * as contract from '@/contract/preparation';
import { listDoubts } from '@/server/preparation';
import { serve } from '../../guard';
import { whichOf } from '../which';

export const GET = serve(contract.listDoubts, ({ owner, query }) =>
  listDoubts(whichOf(owner, query)),
);
