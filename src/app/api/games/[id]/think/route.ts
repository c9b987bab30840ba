import { NextResponse } from 'next/server';
import { z } from 'zod';
import { currentOwner } from '@/server/owner';
import { thinkingAnswer } from '@/server/thinking';
import { readBody, readId, refused, type IdParams } from '../../../guard';

const bodySchema = z.object({
  side: z.literal([0, 1]).nullable(),
  stop: z.number().int().positive(),
  /** UCI or USI. */
  move: z.string().max(8),
});

/** A move has been entered at a stop: what was best there, and what was played. */
export async function POST(request: Request, { params }: IdParams) {
  const id = readId((await params).id);
  const body = await readBody(request, bodySchema);
  if ('answer' in body) return body.answer;
  const { side, stop, move } = body.data;
  const answer =
    id === null ? null : await thinkingAnswer(await currentOwner(), id, side, stop, move);
  return answer ? NextResponse.json(answer) : refused(404, 'missing');
}
