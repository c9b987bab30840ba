import * as contract from '@/contract/endings';
import { endingAt } from '@/server/endings';
import { refuse, serveAnyone } from '../guard';

export const GET = serveAnyone(contract.askEnding, async ({ query: { position } }) => {
  const answer = endingAt(position);
  return answer ?? refuse(422, 'unfit');
});
