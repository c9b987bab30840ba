import * as contract from '@/contract/players';
import { changePlayer } from '@/server/players';
import { refuse, serve } from '../../guard';

/** Says who a player is: how they are shown, whether they are the owner, who is the same person. */
export const PUT = serve(contract.changePlayer, async ({ owner, id, body }) => {
  const changed = await changePlayer(owner, id, body);
  return changed === 'missing' ? refuse(404, changed) : changed;
});
