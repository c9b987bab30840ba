import * as contract from '@/contract/bases';
import { departuresOf } from '@/server/departures';
import { serve } from '../../../guard';

/** Those of whoever asks: a coach sees where a student's game left the coach's bases. */
export const GET = serve(contract.listDepartures, async ({ owner, account, id }) =>
  account ? departuresOf(owner, account, id) : [],
);
