import * as contract from '@/contract/studies';
import { findStudy, removeStudy } from '@/server/studies';
import { refuse, serve } from '../../guard';

export const GET = serve(
  contract.findStudy,
  async ({ owner, id }) => (await findStudy(owner, id)) ?? refuse(404, 'missing'),
);

/** Calls a study off, or takes a finished one away. */
export const DELETE = serve(contract.removeStudy, async ({ owner, id }) => {
  if (!(await removeStudy(owner, id))) refuse(404, 'missing');
});
