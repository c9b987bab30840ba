import { createHmac, timingSafeEqual } from 'node:crypto';
import { parseCookies } from 'better-auth/cookies';
import { and, eq, gt, isNull, sql } from 'drizzle-orm';
import { database, planned } from './database';
import { DEMO_OWNER_ID, OWNER, type Owner } from './owner';
import { owners, sessions } from './schema';
import { sessionSecret } from './secret';
import { settings } from './settings';

export const COOKIE_PREFIX = 'bektra';

/**
 * Whose session a request comes in; null: nobody's. Every request asks it, so the database is asked once and the library of accounts,
 * which would ask it twice, only opens and ends sessions.
 */
export async function accountOf(headers: Headers): Promise<Owner | null> {
  const token = tokenOf(headers);
  if (token === null) return null;
  const [owner] = await bySession().execute({ token });
  if (!owner) return null;
  // what the operator closes is closed to those inside too
  return owner.id === DEMO_OWNER_ID && !settings().demo ? null : owner;
}

const bySession = planned(() =>
  database()
    .select(OWNER)
    .from(sessions)
    .innerJoin(owners, eq(owners.id, sessions.userId))
    .where(
      and(
        eq(sessions.token, sql.placeholder('token')),
        gt(sessions.expiresAt, sql`now()`),
        isNull(owners.closedAt),
      ),
    )
    .prepare('session'),
);

/** The session's secret, from a cookie as the library signs it: the token, a full stop, its HMAC-SHA-256 in base64. */
function tokenOf(headers: Headers): string | null {
  const name = `${settings().https ? '__Secure-' : ''}${COOKIE_PREFIX}.session_token`;
  const cookie = parseCookies(headers.get('cookie') ?? '').get(name) ?? '';
  const end = cookie.lastIndexOf('.');
  if (end < 1) return null;
  const token = cookie.slice(0, end);
  const given = Buffer.from(cookie.slice(end + 1), 'base64');
  const wanted = createHmac('sha256', secret()).update(token).digest();
  return given.length === wanted.length && timingSafeEqual(given, wanted) ? token : null;
}

let known: string | null = null;
const secret = (): string => (known ??= sessionSecret());
