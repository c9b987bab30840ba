import * as contract from '@/contract/batches';
import { pauseBatch, stopBatch } from '@/server/batches';
import { refuse, serve } from '../../guard';

/** Pauses a batch, or goes on with it. */
export const PUT = serve(
  contract.pauseBatch,
  async ({ owner, id, body }) =>
    (await pauseBatch(owner, id, body.paused)) ?? refuse(404, 'missing'),
);

/** Calls off what is not finished yet. */
export const DELETE = serve(contract.stopBatch, async ({ owner, id }) => {
  if (!(await stopBatch(owner, id))) refuse(404, 'missing');
});
