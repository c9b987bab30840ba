import * as contract from '@/contract/preparation';
import { partingsOf } from '@/server/preparation';
import { serve } from '../../../guard';

/** Those of whoever asks, as with bases. */
export const GET = serve(contract.listPartings, async ({ owner, account, id }) =>
  account ? partingsOf(owner, account, id) : [],
);
