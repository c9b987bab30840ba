import { sql } from 'drizzle-orm';
import { NextResponse } from 'next/server';
import { database } from '@/server/database';

export const dynamic = 'force-dynamic';

/** 200 when the app can serve: the database answers. */
export async function GET() {
  try {
    await database().execute(sql`select 1`);
    return NextResponse.json({ status: 'ok' });
  } catch {
    return NextResponse.json({ status: 'database unreachable' }, { status: 503 });
  }
}
