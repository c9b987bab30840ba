import { NextResponse } from 'next/server';
import { fromJson, recordSchema } from '@/core/game/serial';
import { createGame } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { readBody, refused } from '../guard';

/** Stores a game entered by hand. */
export async function POST(request: Request) {
  const body = await readBody(request, recordSchema);
  if ('answer' in body) return body.answer;
  let record;
  try {
    record = fromJson(body.data, { legality: 'checked' });
  } catch (error) {
    return refused(400, 'malformed', error instanceof Error ? error.message : undefined);
  }
  const { id, duplicate } = await createGame(await currentOwner(), record);
  return NextResponse.json({ id, duplicate }, { status: duplicate ? 200 : 201 });
}
