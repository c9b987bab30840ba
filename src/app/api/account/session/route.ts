import * as contract from '@/contract/account';
import { signIn, signOut } from '@/server/accounts';
import { refuse, serveAnyone } from '../../guard';

export const POST = serveAnyone(contract.signIn, async ({ body, setCookies }) => {
  const cookies = await signIn(body.name, body.password);
  if (cookies === 'tooMany') refuse(429, cookies);
  if (cookies === 'wrong') refuse(403, cookies);
  setCookies(cookies);
});

export const DELETE = serveAnyone(contract.signOut, async ({ headers, setCookies }) => {
  setCookies(await signOut(headers));
});
