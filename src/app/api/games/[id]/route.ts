import { NextResponse } from 'next/server';
import { deleteGame } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { readId, refused, route, type Id } from '../../guard';

export const DELETE = route<Id>(async (_, { id }) => {
  const deleted = await deleteGame(await currentOwner(), readId(id));
  return deleted ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
});
