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

/** Bytes. */
export const MOST_JSON = 32 * 1024 * 1024;

/** The whole body, or null when it is larger than `most` bytes; no more than that is ever held. */
export async function readUpTo(request: Request, most: number): Promise<Uint8Array | null> {
  if (!request.body) return new Uint8Array();
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of request.body as unknown as AsyncIterable<Uint8Array>) {
    size += piece.length;
    if (size > most) return null;
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

function readJson(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    return undefined;
  }
}

/** The body as checked data, or the answer that says what is wrong with it. */
export async function readBody<T>(
  request: Request,
  schema: z.ZodType<T>,
): Promise<{ data: T } | { answer: NextResponse }> {
  const foreign = refuseForeign(request);
  if (foreign) return { answer: foreign };
  const bytes = await readUpTo(request, MOST_JSON);
  if (!bytes) return { answer: refused(413, 'tooLarge') };
  const parsed = schema.safeParse(readJson(bytes));
  if (parsed.success) return { data: parsed.data };
  return { answer: refused(400, 'malformed', parsed.error.issues.slice(0, 5)) };
}

/** A row's id from the address, or null. */
export function readId(text: string): number | null {
  return /^\d{1,15}$/.test(text) ? Number(text) : null;
}

export type IdParams = { params: Promise<{ id: string }> };
