import { NextResponse } from 'next/server';
import { sweepSettingsSchema } from '@/core/review/sweep-settings';
import { currentOwner } from '@/server/owner';
import { cancelSweep, latestSweep, startSweep } from '@/server/sweeps';
import { readBody, readId, refused, route, type Id } from '../../../guard';

export const POST = route<Id>(async (request, { id }) => {
  const wanted = await readBody(request, sweepSettingsSchema);
  const sweep = await startSweep(await currentOwner(), readId(id), wanted);
  return sweep ? NextResponse.json(sweep, { status: 202 }) : refused(404, 'missing');
});

export const DELETE = route<Id>(async (_, { id }) => {
  const owner = await currentOwner();
  const sweep = await latestSweep(owner, readId(id));
  const cancelled = sweep !== null && (await cancelSweep(owner, sweep.id));
  return cancelled ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
});
