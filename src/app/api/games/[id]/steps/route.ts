import { NextResponse } from 'next/server';
import { z } from 'zod';
import { stepSchema } from '@/core/game/step-schema';
import { changesSince, saveSteps } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { readBody, readId, refused, type IdParams } from '../../../guard';

const bodySchema = z.object({
  version: z.number().int().positive(),
  steps: z.array(stepSchema).min(1).max(500),
});

/** What happened to the game after the version `since`. */
export async function GET(request: Request, { params }: IdParams) {
  const id = readId((await params).id);
  const since = readId(new URL(request.url).searchParams.get('since') ?? '');
  if (since === null) return refused(400, 'malformed');
  const changes = id === null ? null : await changesSince(await currentOwner(), id, since);
  return changes ? NextResponse.json(changes) : refused(404, 'missing');
}

/** Changes a game: 409 with what others did when it has changed meanwhile. */
export async function POST(request: Request, { params }: IdParams) {
  const id = readId((await params).id);
  const body = await readBody(request, bodySchema);
  if ('answer' in body) return body.answer;
  if (id === null) return refused(404, 'missing');
  const outcome = await saveSteps(await currentOwner(), id, body.data.version, body.data.steps);
  if (outcome.saved) return NextResponse.json({ version: outcome.version });
  if (outcome.reason === 'missing') return refused(404, 'missing');
  if (outcome.reason === 'unfit') return refused(422, 'unfit', outcome.message);
  const { version, steps } = outcome;
  return NextResponse.json({ error: 'stale', version, steps }, { status: 409 });
}
