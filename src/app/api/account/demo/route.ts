import * as contract from '@/contract/account';
import { openDemo } from '@/server/accounts';
import { refuse, serveAnyone } from '../../guard';

export const POST = serveAnyone(contract.openDemo, async ({ setCookies }) => {
  const cookies = await openDemo();
  if (cookies === 'closed') refuse(403, cookies);
  setCookies(cookies);
});
