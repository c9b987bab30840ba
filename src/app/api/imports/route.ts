import { NextResponse } from 'next/server';
import { importQuerySchema } from '@/contract/imports';
import { queueImport } from '@/server/imports';
import { askerOf } from '@/server/access';
import { settings } from '@/server/settings';
import { accountIn, bodyOf, refused, route } from '../guard';

/** Takes a file as the body; its name and what becomes of its games in the query, `label` as often as there are. */
export const POST = route(async (request) => {
  const owner = accountIn(await askerOf(request.headers));
  const { searchParams } = new URL(request.url);
  const asked = importQuerySchema.safeParse({
    ...Object.fromEntries(searchParams),
    name: (searchParams.get('name') ?? 'pasted').slice(0, 200).toWellFormed(),
    labels: searchParams.getAll('label'),
  });
  if (!asked.success) return refused(400, 'malformed');
  const { name, copies, sweep, collection, player, base, labels } = asked.data;
  const status = await queueImport(owner, name, bodyOf(request), {
    asCopies: copies !== undefined,
    sweep: sweep ?? null,
    collection: collection ?? null,
    player: player ?? null,
    base: base ?? null,
    labels,
  });
  if (status === 'missing') return refused(404, status);
  if (status === 'tooLarge') return refused(413, status, settings().importBytes / 1024 / 1024);
  if (status === 'tooMuch') return refused(429, status);
  return NextResponse.json(status, { status: 202 });
});
