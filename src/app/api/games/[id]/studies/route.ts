import { NextResponse } from 'next/server';
import * as z from 'zod';
import { sweepSettingsSchema } from '@/core/review/sweep-settings';
import { currentOwner } from '@/server/owner';
import { settings } from '@/server/settings';
import { listStudies, startStudy } from '@/server/studies';
import { readBody, readId, refused, route, type Id } from '../../../guard';

const bodySchema = z.object({
  node: z.number().int().min(0),
  way: z.array(z.string().max(8)).max(500),
  /** Null: our own. */
  engine: z.string().max(60).nullable(),
  lines: z.number().int().min(1).max(8),
  /** For an external engine: how long it may think. */
  seconds: z.number().int().min(1).max(600).optional(),
});

const STATUS = { missing: 404, unfit: 422, engine: 403, tooMany: 429 } as const;

export const GET = route<Id>(async (_, { id }) =>
  NextResponse.json(await listStudies(await currentOwner(), readId(id))),
);

/** Queues a search of one position of the game. */
export const POST = route<Id>(async (request, { id }) => {
  const { lines, seconds, ...task } = await readBody(request, bodySchema);
  const limit =
    seconds === undefined ? { nodes: settings().doubtNodes } : { milliseconds: seconds * 1000 };
  const started = await startStudy(await currentOwner(), readId(id), {
    ...task,
    settings: sweepSettingsSchema.parse({ ...limit, lines }),
  });
  if ('refused' in started) return refused(STATUS[started.refused], started.refused);
  return NextResponse.json(started.study, { status: 201 });
});
