import { hurryBatch } from '@/contract/batches';
import { putFirst } from '@/server/batches';
import { refuse, serve } from '../../../guard';

/** Puts a batch before all others. */
export const POST = serve(
  hurryBatch,
  async ({ owner, id }) => (await putFirst(owner, id)) ?? refuse(404, 'missing'),
);
