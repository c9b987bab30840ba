import { NextResponse } from 'next/server';
import { z } from 'zod';
import { currentOwner } from '@/server/owner';
import { offeredEngines } from '@/server/studies';
import { refused } from '../guard';
import { GAME_KINDS } from '@/core/game/ruleset';

/** The external engines that the player may use for a game, with what they offer. */
export async function GET(request: Request) {
  const kind = z.enum(GAME_KINDS).safeParse(new URL(request.url).searchParams.get('kind'));
  if (!kind.success) return refused(400, 'malformed');
  return NextResponse.json(await offeredEngines(await currentOwner(), kind.data));
}
