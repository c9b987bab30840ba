import { NextResponse, type NextRequest } from 'next/server';
import { isPlainText } from '@/core/game/text';
import { ADDRESS_HEADER, isAllowedHost } from '@/server/origin';

/** Scripts run by the page's own nonce alone; the compiled engine needs WebAssembly, the development server eval. */
function policy(nonce: string): string {
  const development = process.env.NODE_ENV === 'development' ? " 'unsafe-eval'" : '';
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'${development}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}

/** Whether the address holds text that can be looked for. */
function isPlainAddress({ pathname, searchParams }: URL): boolean {
  try {
    return [decodeURIComponent(pathname), ...[...searchParams].flat()].every(isPlainText);
  } catch {
    return false;
  }
}

/** Where a page is, without what the router adds for itself. */
function addressOf({ pathname, searchParams }: URL): string {
  const query = new URLSearchParams(searchParams);
  query.delete('_rsc');
  return query.size > 0 ? `${pathname}?${query}` : pathname;
}

/** Every page passes here: under a name that is ours, with an address that can be read, and a policy of its own. */
export default function proxy(request: NextRequest): NextResponse {
  if (!isAllowedHost(request.headers.get('host')))
    return new NextResponse('Bektra is not known by this name (BEKTRA_HOSTS in settings.env).\n', {
      status: 421,
    });
  if (!isPlainAddress(request.nextUrl))
    return new NextResponse('This address is malformed.\n', { status: 400 });
  const nonce = Buffer.from(crypto.randomUUID()).toString('base64');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set(ADDRESS_HEADER, addressOf(request.nextUrl));
  headers.set('Content-Security-Policy', policy(nonce));
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy(nonce));
  return response;
}

/** Routes under /api guard themselves, because a body that passes here would be held in memory. */
export const config = { matcher: ['/((?!api/|_next/static|engine/).*)'] };
