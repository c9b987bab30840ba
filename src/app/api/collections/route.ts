import * as contract from '@/contract/collections';
import { listCollections, makeCollection } from '@/server/collections';
import { refuse, serve } from '../guard';

export const GET = serve(contract.listCollections, ({ owner }) => listCollections(owner));

export const POST = serve(
  contract.makeCollection,
  async ({ owner, body }) => (await makeCollection(owner, body.name)) ?? refuse(409, 'taken'),
);
