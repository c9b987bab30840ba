import * as contract from '@/contract/collections';
import { changeCollection, removeCollection } from '@/server/collections';
import { refuse, serve } from '../../guard';

/** Another name, and games put in or taken out. */
export const PUT = serve(contract.changeCollection, async ({ owner, id, body }) => {
  const changed = await changeCollection(owner, id, body);
  if (changed === 'missing') refuse(404, changed);
  if (changed === 'taken') refuse(409, changed);
  return changed;
});

export const DELETE = serve(contract.removeCollection, async ({ owner, id }) => {
  if (!(await removeCollection(owner, id))) refuse(404, 'missing');
});
