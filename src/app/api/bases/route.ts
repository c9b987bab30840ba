import * as contract from '@/contract/bases';
import { listBases, makeBase } from '@/server/bases';
import { refuse, serve } from '../guard';

const STATUS = { missing: 404, taken: 409, tooMany: 429 } as const;

export const GET = serve(contract.listBases, ({ owner, query }) => listBases(owner, query.kind));

export const POST = serve(contract.makeBase, async ({ owner, body }) => {
  const made = await makeBase(owner, body);
  return typeof made === 'string' ? refuse(STATUS[made], made) : made;
});
