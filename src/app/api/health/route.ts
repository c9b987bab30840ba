import { NextResponse } from 'next/server';
import { healthOf } from '@/server/health';
import { route } from '../guard';

export const dynamic = 'force-dynamic';

/** 200 when the whole can serve: the database answers and a worker takes jobs; else 503 with what does not. */
export const GET = route(async () => {
  const health = await healthOf();
  const well = health.database && health.worker;
  return NextResponse.json(
    { status: well ? 'ok' : 'incomplete', ...health },
    { status: well ? 200 : 503 },
  );
});
