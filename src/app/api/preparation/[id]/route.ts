import * as contract from '@/contract/preparation';
import { keepSheet } from '@/server/preparation-sheets';
import { refuse, serve } from '../../guard';

export const DELETE = serve(contract.removeSheet, async ({ owner, id }) => {
  if (!(await keepSheet(owner, id, false))) refuse(404, 'missing');
});

export const PUT = serve(contract.restoreSheet, async ({ owner, id }) => {
  if (!(await keepSheet(owner, id, true))) refuse(404, 'missing');
});
