import { NextResponse } from 'next/server';
import { findGame } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { sweepResults } from '@/server/sweeps';
import { readId, refused, route, type Id } from '../../../guard';

/** The latest sweep of a game, and the findings that are shown. */
export const GET = route<Id>(async (_, { id }) => {
  const owner = await currentOwner();
  const game = await findGame(owner, readId(id));
  return game ? NextResponse.json(await sweepResults(owner, game)) : refused(404, 'missing');
});
