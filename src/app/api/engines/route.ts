import { NextResponse } from 'next/server';
import * as z from 'zod';
import { GAME_KINDS } from '@/core/game/ruleset';
import { currentOwner } from '@/server/owner';
import { offeredEngines } from '@/server/studies';
import { refused, route } from '../guard';

/** The external engines that the player may use for a game, with what they offer. */
export const GET = route(async (request) => {
  const kind = z.enum(GAME_KINDS).safeParse(new URL(request.url).searchParams.get('kind'));
  if (!kind.success) return refused(400, 'malformed');
  return NextResponse.json(await offeredEngines(await currentOwner(), kind.data));
});
