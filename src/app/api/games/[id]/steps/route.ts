import { NextResponse } from 'next/server';
import * as z from 'zod';
import { stepSchema } from '@/core/game/step-schema';
import { changesSince, saveSteps } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { readBody, readId, refused, route, type Id } from '../../../guard';

/** PostgreSQL's largest integer. */
const MOST_VERSION = 2 ** 31 - 1;

const bodySchema = z.object({
  version: z.number().int().positive().max(MOST_VERSION),
  steps: z.array(stepSchema).min(1).max(500),
});

const sinceSchema = z.coerce.number().int().min(0).max(MOST_VERSION);

/** What happened to the game after the version `since`. */
export const GET = route<Id>(async (request, { id }) => {
  const since = sinceSchema.safeParse(new URL(request.url).searchParams.get('since') ?? '-');
  if (!since.success) return refused(400, 'malformed');
  const changes = await changesSince(await currentOwner(), readId(id), since.data);
  return changes ? NextResponse.json(changes) : refused(404, 'missing');
});

/** Changes a game: 409 with what others did when it has changed meanwhile, 422 where the steps do not fit it. */
export const POST = route<Id>(async (request, { id }) => {
  const { version, steps } = await readBody(request, bodySchema);
  const outcome = await saveSteps(await currentOwner(), readId(id), version, steps);
  if (outcome.saved) return NextResponse.json({ version: outcome.version });
  if (outcome.reason === 'missing') return refused(404, 'missing');
  if (outcome.reason === 'unfit') return refused(422, 'unfit', outcome.message);
  const { version: present, steps: theirs } = outcome;
  return NextResponse.json({ error: 'stale', version: present, steps: theirs }, { status: 409 });
});
