import { NextResponse } from 'next/server';
import { currentOwner } from '@/server/owner';
import { findStudy, removeStudy } from '@/server/studies';
import { readId, refused, refuseForeign, type IdParams } from '../../guard';

export async function GET(_request: Request, { params }: IdParams) {
  const id = readId((await params).id);
  const study = id === null ? null : await findStudy(await currentOwner(), id);
  return study ? NextResponse.json(study) : refused(404, 'missing');
}

/** Calls a study off, or takes a finished one away. */
export async function DELETE(request: Request, { params }: IdParams) {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const id = readId((await params).id);
  const removed = id !== null && (await removeStudy(await currentOwner(), id));
  return removed ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
}
