import { NextResponse } from 'next/server';
import { queueImport } from '@/server/imports';
import { currentOwner } from '@/server/owner';
import { settings } from '@/server/settings';
import { readUpTo, refused, refuseForeign } from '../guard';

/** Takes a file as the body; `name` and `copies` in the query. */
export async function POST(request: Request) {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const { searchParams } = new URL(request.url);
  const name = (searchParams.get('name') ?? 'pasted').slice(0, 200);
  const bytes = await readUpTo(request, settings().importBytes);
  if (!bytes) return refused(413, 'tooLarge', settings().importBytes / 1024 / 1024);
  const owner = await currentOwner();
  const status = await queueImport(owner, name, bytes, searchParams.get('copies') === '1');
  return NextResponse.json(status, { status: 202 });
}
