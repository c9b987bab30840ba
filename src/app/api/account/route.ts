import * as contract from '@/contract/account';
import { changePassword, signUp } from '@/server/accounts';
import { refuse, serve, serveAnyone } from '../guard';

const STATUS = { closed: 403, taken: 409, wrong: 403, demo: 403, tooMany: 429 } as const;

/** Makes an account and signs in to it. */
export const POST = serveAnyone(contract.signUp, async ({ body, setCookies }) => {
  const cookies = await signUp(body.name, body.password);
  if (typeof cookies === 'string') refuse(STATUS[cookies], cookies);
  setCookies(cookies);
});

export const PUT = serve(contract.changePassword, async ({ owner, body, setCookies }) => {
  const cookies = await changePassword(owner, body.current, body.password);
  if (typeof cookies === 'string') refuse(STATUS[cookies], cookies);
  setCookies(cookies);
});
