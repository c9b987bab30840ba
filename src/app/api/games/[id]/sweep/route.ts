import * as contract from '@/contract/review';
import { reviewOf } from '@/server/findings';
import { findGame } from '@/server/games';
import { cancelSweep, latestSweep, setBeside, startSweep } from '@/server/sweeps';
import { refuse, serve } from '../../../guard';

export const POST = serve(
  contract.startSweep,
  async ({ owner, id, body }) => (await startSweep(owner, id, body)) ?? refuse(404, 'missing'),
);

export const PUT = serve(contract.compareSweep, async ({ owner, id, body }) => {
  const game = await findGame(owner, id);
  if (!game || !(await setBeside(owner, id, body.beside))) refuse(404, 'missing');
  return reviewOf(owner, game);
});

export const DELETE = serve(contract.stopSweep, async ({ owner, id }) => {
  const sweep = await latestSweep(owner, id);
  if (!sweep || !(await cancelSweep(owner, sweep.id))) refuse(404, 'missing');
});
