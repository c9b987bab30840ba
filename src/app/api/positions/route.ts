import { NextResponse } from 'next/server';
import * as z from 'zod';
import { GAME_KINDS, PositionError } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { occurrencesOf } from '@/server/occurrences';
import { currentOwner } from '@/server/owner';
import { refused, route } from '../guard';

const querySchema = z.object({
  kind: z.enum(GAME_KINDS),
  position: z.string().max(200),
  except: z.coerce.number().int().nonnegative().max(Number.MAX_SAFE_INTEGER).default(0),
});

/** Where else the owner had a position. */
export const GET = route(async (request) => {
  const { searchParams } = new URL(request.url);
  const query = querySchema.safeParse(Object.fromEntries(searchParams));
  if (!query.success) return refused(400, 'malformed');
  const { kind, position, except } = query.data;
  try {
    const read = rulesetOf(kind).start(position);
    return NextResponse.json(await occurrencesOf(await currentOwner(), kind, read, except));
  } catch (error) {
    if (error instanceof PositionError) return refused(400, error.code, error.params);
    throw error;
  }
});
