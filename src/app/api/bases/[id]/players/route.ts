import * as contract from '@/contract/bases';
import { findBasePlayers } from '@/server/base-answers';
import { serve } from '../../../guard';

export const GET = serve(contract.findBasePlayers, ({ id, query }) =>
  findBasePlayers(id, query.name),
);
