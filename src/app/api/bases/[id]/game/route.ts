import * as contract from '@/contract/bases';
import { toJson } from '@/core/game/serial';
import { findBaseGame } from '@/server/base-answers';
import { refuse, serve } from '../../../guard';

export const GET = serve(contract.findBaseGame, async ({ owner, id, query }) => {
  const record = await findBaseGame(owner, id, query.number);
  return record ? toJson(record) : refuse(404, 'missing');
});
