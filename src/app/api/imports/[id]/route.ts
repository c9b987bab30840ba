import { NextResponse } from 'next/server';
import { cancelImport, findImport } from '@/server/imports';
import { currentOwner } from '@/server/owner';
import { readId, refused, route, type Id } from '../../guard';

export const GET = route<Id>(async (_, { id }) => {
  const status = await findImport(await currentOwner(), readId(id));
  return status ? NextResponse.json(status) : refused(404, 'missing');
});

export const DELETE = route<Id>(async (_, { id }) => {
  const cancelled = await cancelImport(await currentOwner(), readId(id));
  return cancelled ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
});
