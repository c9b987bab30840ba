import { NextResponse } from 'next/server';
import { currentOwner } from '@/server/owner';
import { findStudy, removeStudy } from '@/server/studies';
import { readId, refused, route, type Id } from '../../guard';

export const GET = route<Id>(async (_, { id }) => {
  const study = await findStudy(await currentOwner(), readId(id));
  return study ? NextResponse.json(study) : refused(404, 'missing');
});

/** Calls a study off, or takes a finished one away. */
export const DELETE = route<Id>(async (_, { id }) => {
  const removed = await removeStudy(await currentOwner(), readId(id));
  return removed ? new NextResponse(null, { status: 204 }) : refused(404, 'missing');
});
