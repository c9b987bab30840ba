import { NextResponse } from 'next/server';
import type { z } from 'zod';

export const refused = (status: number, code: string, detail?: unknown): NextResponse =>
  NextResponse.json({ error: code, detail }, { status });

/** Changes are taken from our own pages only; null where the request may go on. */
export function refuseForeign(request: Request): NextResponse | null {
  const site = request.headers.get('sec-fetch-site');
  return site !== null && site !== 'same-origin' && site !== 'none'
    ? refused(403, 'foreign')
    : null;
}

const MOST_JSON = 32 * 1024 * 1024;

/** The body as checked data, or the answer that says what is wrong with it. */
export async function readBody<T>(
  request: Request,
  schema: z.ZodType<T>,
): Promise<{ data: T } | { answer: NextResponse }> {
  const foreign = refuseForeign(request);
  if (foreign) return { answer: foreign };
  if (Number(request.headers.get('content-length') ?? 0) > MOST_JSON)
    return { answer: refused(413, 'tooLarge') };
  const json: unknown = await request.json().catch(() => undefined);
  const parsed = schema.safeParse(json);
  if (parsed.success) return { data: parsed.data };
  return { answer: refused(400, 'malformed', parsed.error.issues.slice(0, 5)) };
}

/** A row's id from the address, or null. */
export function readId(text: string): number | null {
  return /^\d{1,15}$/.test(text) ? Number(text) : null;
}

export type IdParams = { params: Promise<{ id: string }> };
