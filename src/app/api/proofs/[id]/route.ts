import * as contract from '@/contract/proofs';
import { stopProof } from '@/server/proofs';
import { refuse, serve } from '../../guard';

/** Stops a proof, or takes a finished one away. */
export const DELETE = serve(contract.stopProof, async ({ owner, id }) => {
  if (!(await stopProof(owner, id))) refuse(404, 'missing');
});
