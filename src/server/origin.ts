import { settings } from './settings';

/** The header in which `proxy.ts` tells a page its own address. */
export const ADDRESS_HEADER = 'x-address';

/** The name in a Host header, without its port; null where it is none. */
function nameOf(host: string | null): string | null {
  const match = /^(\[[0-9a-f:.]+\]|[a-z0-9.-]+)(?::\d{1,5})?$/i.exec(host ?? '');
  return match ? match[1]!.toLowerCase() : null;
}

/** Whether a request was sent to a name that this app is known by: others may lead here by a lie. */
export function isAllowedHost(host: string | null): boolean {
  const name = nameOf(host);
  return name !== null && settings().hosts.includes(name);
}

/** Whether a request for a change comes from a page of another site; programs say nothing of a site. */
export function isForeign(headers: Headers): boolean {
  const site = headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin' && site !== 'none') return true;
  const origin = headers.get('origin');
  if (origin === null) return false;
  return !URL.canParse(origin) || new URL(origin).host !== headers.get('host');
}
