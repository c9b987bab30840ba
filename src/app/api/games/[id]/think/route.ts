import { NextResponse } from 'next/server';
import * as z from 'zod';
import { currentOwner } from '@/server/owner';
import { thinkingAnswer } from '@/server/thinking';
import { readBody, readId, refused, route, type Id } from '../../../guard';

const bodySchema = z.object({
  side: z.literal([0, 1]).nullable(),
  stop: z.number().int().positive(),
  /** UCI or USI. */
  move: z.string().max(8),
});

/** A move has been entered at a stop: what was best there, and what was played. */
export const POST = route<Id>(async (request, { id }) => {
  const { side, stop, move } = await readBody(request, bodySchema);
  const answer = await thinkingAnswer(await currentOwner(), readId(id), side, stop, move);
  return answer ? NextResponse.json(answer) : refused(404, 'missing');
});
