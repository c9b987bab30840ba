import * as contract from '@/contract/batches';
import { listBatches, startBatch } from '@/server/batches';
import { refuse, serve } from '../guard';

export const GET = serve(contract.listBatches, ({ owner }) => listBatches(owner));

/** Queues sweeps of many games. */
export const POST = serve(
  contract.startBatch,
  async ({ owner, body: { settings, ownMoves, ...games } }) =>
    (await startBatch(owner, games, settings, { ownMoves })) ?? refuse(422, 'empty'),
);
