import * as contract from '@/contract/games';
import { changesSince, saveSteps } from '@/server/games';
import { refuse, serve } from '../../../guard';

/** What happened to the game after the version `since`. */
export const GET = serve(
  contract.changesSince,
  async ({ owner, id, query }) =>
    (await changesSince(owner, id, query.since)) ?? refuse(404, 'missing'),
);

/** Changes a game: 409 with what others did when it has changed meanwhile, 422 where the steps do not fit it. */
export const POST = serve(contract.saveSteps, async ({ owner, account, right, id, body }) => {
  // without an account one may only look
  const author = { by: account!, right };
  const outcome = await saveSteps(owner, id, body.version, body.steps, author);
  if (outcome.saved) return { version: outcome.version };
  if (outcome.reason === 'right') refuse(403, 'right');
  if (outcome.reason === 'missing') refuse(404, 'missing');
  if (outcome.reason === 'unfit') refuse(422, 'unfit', outcome.message);
  refuse(409, 'stale', { version: outcome.version, steps: outcome.steps });
});
