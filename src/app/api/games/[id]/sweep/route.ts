import { NextResponse } from 'next/server';
import { sweepSettingsSchema } from '@/core/review/sweep-settings';
import { currentOwner } from '@/server/owner';
import { cancelSweep, latestSweep, startSweep } from '@/server/sweeps';
import { readBody, readId, refused, refuseForeign, type IdParams } from '../../../guard';

export async function POST(request: Request, { params }: IdParams) {
  const id = readId((await params).id);
  const body = await readBody(request, sweepSettingsSchema);
  if ('answer' in body) return body.answer;
  const sweep = id === null ? null : await startSweep(await currentOwner(), id, body.data);
  return sweep ? NextResponse.json(sweep, { status: 202 }) : refused(404, 'missing');
}

export async function DELETE(request: Request, { params }: IdParams) {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const id = readId((await params).id);
  const owner = await currentOwner();
  const sweep = id === null ? null : await latestSweep(owner, id);
  const cancelled = sweep !== null && (await cancelSweep(owner, sweep.id));
  return cancelled ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
}
