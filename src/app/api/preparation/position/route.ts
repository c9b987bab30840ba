import * as contract from '@/contract/preparation';
import { findPrepared } from '@/server/preparation';
import { refuse, serve } from '../../guard';

export const GET = serve(
  contract.findPrepared,
  async ({ owner, query: { kind, position } }) =>
    (await findPrepared(owner, kind, position)) ?? refuse(422, 'unfit'),
);
