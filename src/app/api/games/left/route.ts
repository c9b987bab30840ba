import * as contract from '@/contract/bases';
import { leftOf } from '@/server/departures';
import { serve } from '../../guard';

export const GET = serve(contract.listLeft, ({ owner, query: { games, bases } }) =>
  leftOf(owner, games, bases ?? []),
);
