import * as contract from '@/contract/bases';
import { askBase } from '@/server/base-answers';
import { serve } from '../../../guard';
import { answered } from '../answered';

export const GET = serve(contract.askBase, async ({ owner, id, query: { position, ...filter } }) =>
  answered(await askBase(owner, id, position, filter)),
);
