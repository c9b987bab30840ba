import * as contract from '@/contract/review';
import { cancelSweep, latestSweep, startSweep } from '@/server/sweeps';
import { refuse, serve } from '../../../guard';

export const POST = serve(
  contract.startSweep,
  async ({ owner, id, body }) => (await startSweep(owner, id, body)) ?? refuse(404, 'missing'),
);

export const DELETE = serve(contract.stopSweep, async ({ owner, id }) => {
  const sweep = await latestSweep(owner, id);
  if (!sweep || !(await cancelSweep(owner, sweep.id))) refuse(404, 'missing');
});
