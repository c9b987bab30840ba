import * as contract from '@/contract/bases';
import { askOnward } from '@/server/base-answers';
import { serve } from '../../../guard';
import { answered } from '../answered';

export const GET = serve(
  contract.askOnward,
  async ({ owner, id, query: { position, ...filter } }) =>
    answered(await askOnward(owner, id, position, filter)),
);
