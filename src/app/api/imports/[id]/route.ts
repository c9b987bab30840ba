import { NextResponse } from 'next/server';
import { cancelImport, findImport } from '@/server/imports';
import { currentOwner } from '@/server/owner';
import { readId, refused, refuseForeign, type IdParams } from '../../guard';

export async function GET(_request: Request, { params }: IdParams) {
  const id = readId((await params).id);
  const status = id === null ? null : await findImport(await currentOwner(), id);
  return status ? NextResponse.json(status) : refused(404, 'missing');
}

export async function DELETE(request: Request, { params }: IdParams) {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const id = readId((await params).id);
  const cancelled = id !== null && (await cancelImport(await currentOwner(), id));
  return cancelled ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
}
