import { NextResponse } from 'next/server';
import { readSettingsText, type SweepSettings } from '@/core/review/sweep-settings';
import { queueImport } from '@/server/imports';
import { askerOf } from '@/server/access';
import { settings } from '@/server/settings';
import { accountIn, bodyOf, refused, route } from '../guard';

/** Takes a file as the body; `name`, `copies`, and how its games are gone over (`sweep`) in the query. */
export const POST = route(async (request) => {
  const owner = accountIn(await askerOf(request.headers));
  const { searchParams } = new URL(request.url);
  const name = (searchParams.get('name') ?? 'pasted').slice(0, 200).toWellFormed();
  const copies = searchParams.get('copies') === '1';
  const settingsText = searchParams.get('sweep');
  const sweep = settingsText === null ? null : readSettings(settingsText);
  if (sweep === 'none') return refused(400, 'malformed');
  const status = await queueImport(owner, name, bodyOf(request), copies, sweep);
  if (status === 'tooLarge') return refused(413, status, settings().importBytes / 1024 / 1024);
  if (status === 'tooMuch') return refused(429, status);
  return NextResponse.json(status, { status: 202 });
});

function readSettings(text: string): SweepSettings | 'none' {
  try {
    return readSettingsText(text);
  } catch {
    return 'none';
  }
}
