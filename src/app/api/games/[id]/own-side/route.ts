import { keepOwnSide } from '@/contract/games';
import { setOwnSide } from '@/server/games';
import { refuse, serve } from '../../../guard';

/** Keeps which side of the game the owner played; null: as the names tell. */
export const PUT = serve(keepOwnSide, async ({ owner, id, body }) => {
  if (!(await setOwnSide(owner, id, body.side))) refuse(404, 'missing');
});
