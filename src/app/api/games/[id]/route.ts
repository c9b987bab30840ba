import { removeGame } from '@/contract/games';
import { deleteGame } from '@/server/games';
import { refuse, serve } from '../../guard';

export const DELETE = serve(removeGame, async ({ owner, id }) => {
  if (!(await deleteGame(owner, id))) refuse(404, 'missing');
});
