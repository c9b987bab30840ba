import * as contract from '@/contract/proofs';
import { listProofs, startProof } from '@/server/proofs';
import { refuse, serve } from '../../../guard';

const STATUS = { missing: 404, unfit: 422, tooMany: 429 } as const;

export const GET = serve(contract.listProofs, ({ owner, id }) => listProofs(owner, id));

/** Queues a proof of one position of the game. */
export const POST = serve(contract.startProof, async ({ owner, id, body: { node, way } }) => {
  const started = await startProof(owner, id, node, way);
  if ('refused' in started) refuse(STATUS[started.refused], started.refused);
  return started.proof;
});
