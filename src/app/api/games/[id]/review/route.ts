import { NextResponse } from 'next/server';
import { findGame } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { sweepResults } from '@/server/sweeps';
import { readId, refused, type IdParams } from '../../../guard';

/** The latest sweep of a game with what it has found so far. */
export async function GET(_request: Request, { params }: IdParams) {
  const id = readId((await params).id);
  const owner = await currentOwner();
  const game = id === null ? null : await findGame(owner, id);
  return game ? NextResponse.json(await sweepResults(owner, game)) : refused(404, 'missing');
}
