import * as contract from '@/contract/account';
import { closeAccount, removeClosed } from '@/server/accounts';
import { logger } from '@/server/log';
import { refuse, serve } from '../../guard';

/** Ends the account with all that is in it. */
export const POST = serve(contract.closeAccount, async ({ owner, body }) => {
  const outcome = await closeAccount(owner, body.password);
  if (outcome !== 'done') refuse(outcome === 'tooMany' ? 429 : 403, outcome);
  // nobody waits for it, and a worker goes on with what is left
  void removeClosed().catch((error: unknown) =>
    logger('web').error({ err: error }, 'an account could not be removed'),
  );
});
