import * as contract from '@/contract/collections';
import { makeCollection } from '@/server/collections';
import { refuse, serve } from '../guard';

export const POST = serve(
  contract.makeCollection,
  async ({ owner, body }) => (await makeCollection(owner, body.name)) ?? refuse(409, 'taken'),
);
