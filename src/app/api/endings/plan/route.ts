import * as contract from '@/contract/proofs';
import { chessPositionOf } from '@/server/endings';
import { proofOf } from '@/server/proofs';
import { refuse, serve } from '../../guard';

/** What a proof of a position would take. */
export const GET = serve(contract.planProof, async ({ query }) => {
  const position = chessPositionOf(query.position) ?? refuse(422, 'unfit');
  const plan = await proofOf(position);
  return (
    plan && {
      how: plan.how,
      positions: plan.reach.positions,
      seconds: plan.seconds,
      bytes: plan.reach.bytes,
    }
  );
});
