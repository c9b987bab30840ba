import { NextResponse } from 'next/server';
import { fromJson, recordSchema } from '@/core/game/serial';
import { limitProblem } from '@/core/game/problem';
import { treeLimit } from '@/core/game/tree';
import { createGame } from '@/server/games';
import { currentOwner } from '@/server/owner';
import { readBody, refuse, route } from '../guard';

/** Stores a game entered by hand; with `copy=1` also where it is there already. */
export const POST = route(async (request) => {
  const record = readRecord(await readBody(request, recordSchema));
  const limit = treeLimit(record.tree);
  if (limit) refuse(422, 'limit', limitProblem(limit));
  const asCopy = new URL(request.url).searchParams.get('copy') === '1';
  const { id, duplicate } = await createGame(await currentOwner(), record, asCopy);
  return NextResponse.json({ id, duplicate }, { status: duplicate ? 200 : 201 });
});

function readRecord(json: Parameters<typeof fromJson>[0]) {
  try {
    return fromJson(json, { legality: 'checked' });
  } catch (error) {
    refuse(400, 'malformed', (error as Error).message.slice(0, 200));
  }
}
