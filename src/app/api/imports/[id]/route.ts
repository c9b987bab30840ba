import * as contract from '@/contract/imports';
import { cancelImport, findImport } from '@/server/imports';
import { refuse, serve } from '../../guard';

export const GET = serve(
  contract.findImport,
  async ({ owner, id }) => (await findImport(owner, id)) ?? refuse(404, 'missing'),
);

export const DELETE = serve(contract.stopImport, async ({ owner, id }) => {
  if (!(await cancelImport(owner, id))) refuse(404, 'missing');
});
