import * as contract from '@/contract/bases';
import { removeBase } from '@/server/bases';
import { refuse, serve } from '../../guard';

export const DELETE = serve(contract.removeBase, async ({ owner, id }) => {
  if (!(await removeBase(owner, id))) refuse(404, 'missing');
});
