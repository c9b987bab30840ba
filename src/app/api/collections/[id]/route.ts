import * as contract from '@/contract/collections';
import { renameCollection, removeCollection } from '@/server/collections';
import { refuse, serve } from '../../guard';

export const PUT = serve(contract.renameCollection, async ({ owner, id, body }) => {
  const renamed = await renameCollection(owner, id, body.name);
  if (renamed === 'missing') refuse(404, renamed);
  if (renamed === 'taken') refuse(409, renamed);
  return renamed;
});

export const DELETE = serve(contract.removeCollection, async ({ owner, id }) => {
  if (!(await removeCollection(owner, id))) refuse(404, 'missing');
});
