import { NextResponse } from 'next/server';
import * as z from 'zod';
import { setOwnSide } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { readBody, readId, refused, route, type Id } from '../../../guard';

const bodySchema = z.object({ side: z.literal([0, 1]).nullable() });

/** Keeps which side of the game the owner played; null: as the names tell. */
export const PUT = route<Id>(async (request, { id }) => {
  const { side } = await readBody(request, bodySchema);
  const kept = await setOwnSide(await currentOwner(), readId(id), side);
  return kept ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
});
