import { NextResponse } from 'next/server';
import { deleteGame } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { readId, refused, refuseForeign, type IdParams } from '../../guard';

export async function DELETE(request: Request, { params }: IdParams) {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const id = readId((await params).id);
  const deleted = id !== null && (await deleteGame(await currentOwner(), id));
  return deleted ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
}
