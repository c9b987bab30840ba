import * as contract from '@/contract/library';
import { removeFilter } from '@/server/saved-filters';
import { refuse, serve } from '../../guard';

export const DELETE = serve(contract.removeFilter, async ({ owner, id }) => {
  if (!(await removeFilter(owner, id))) refuse(404, 'missing');
});
