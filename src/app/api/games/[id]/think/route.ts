import { answerThought } from '@/contract/review';
import { thinkingAnswer } from '@/server/thinking';
import { refuse, serve } from '../../../guard';

/** A move has been entered at a stop: what was best there, and what was played. */
export const POST = serve(
  answerThought,
  async ({ owner, id, body: { side, stop, move } }) =>
    (await thinkingAnswer(owner, id, side, stop, move)) ?? refuse(404, 'missing'),
);
