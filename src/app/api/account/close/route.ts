import * as contract from '@/contract/account';
import { closeAccount } from '@/server/accounts';
import { refuse, serve } from '../../guard';

/** Ends the account with all that is in it. */
export const POST = serve(contract.closeAccount, async ({ owner, body }) => {
  const outcome = await closeAccount(owner, body.password);
  if (outcome !== 'done') refuse(outcome === 'tooMany' ? 429 : 403, outcome);
});
