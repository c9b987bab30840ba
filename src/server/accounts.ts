import { createHash } from 'node:crypto';
import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { createAuthEndpoint } from 'better-auth/api';
import { setSessionCookie } from 'better-auth/cookies';
import { and, eq, inArray, isNotNull, or, sql } from 'drizzle-orm';
import { folded } from '@/core/game/folded';
import { PASSWORD_LENGTH } from '@/contract/account';
import { OPEN_STATES } from './asks';
import { mayTry } from './attempts';
import { database, type Database, type Transaction } from './database';
import { DEMO_OWNER_ID, OWNER, type Owner } from './owner';
import { asks, credentials, games, grants, owners, sessions, verifications } from './schema';
import { sessionSecret } from './secret';
import { COOKIE_PREFIX } from './sessions';
import { settings } from './settings';

/** How the library calls a credential that is a password. */
const BY_PASSWORD = 'credential';

const DAY_SECONDS = 24 * 3600;

/** Attempts at one account's password, at all of them, and new accounts. */
const LIMITS = {
  password: { most: 10, seconds: 300 },
  passwords: { most: 300, seconds: 60 },
  account: { most: 100, seconds: 3600 },
} as const;

/** A way into the demo account that needs no password. */
const demoDoor = {
  id: 'demo',
  endpoints: {
    openDemo: createAuthEndpoint('/demo', { method: 'POST' }, async (context) => {
      const { internalAdapter } = context.context;
      const user = (await internalAdapter.findUserById(DEMO_OWNER_ID))!;
      const session = await internalAdapter.createSession(user.id);
      await setSessionCookie(context, { session, user });
      return context.json(null);
    }),
  },
};

const makeAuth = () =>
  betterAuth({
    // what it is asked comes by our own routes, which know under which names we are reached
    baseURL: 'http://accounts.invalid',
    secret: sessionSecret(),
    database: drizzleAdapter(database(), {
      provider: 'pg',
      schema: {
        user: owners,
        session: sessions,
        account: credentials,
        verification: verifications,
      },
    }),
    user: {
      additionalFields: {
        username: { type: 'string', required: true },
      },
    },
    emailAndPassword: {
      enabled: true,
      minPasswordLength: 1,
      maxPasswordLength: PASSWORD_LENGTH.most,
    },
    session: { expiresIn: 90 * DAY_SECONDS },
    plugins: [demoDoor],
    // attempts are counted by account, which the library can't
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    logger: { disabled: true },
    advanced: {
      cookiePrefix: COOKIE_PREFIX,
      useSecureCookies: settings().https,
      defaultCookieAttributes: { httpOnly: true, sameSite: 'lax' },
      ipAddress: { disableIpTracking: true },
      disableOriginCheck: true,
      database: { generateId: 'uuid' },
    },
  });

let made: ReturnType<typeof makeAuth> | null = null;
/** Made when it is first asked, so that a build needs no database. */
const auth = () => (made ??= makeAuth());

const usernameOf = (name: string): string => folded(name);

/** What the library takes for an address; nothing is ever sent there. */
const addressOf = (name: string): string =>
  `${createHash('sha256').update(usernameOf(name)).digest('hex')}@account.invalid`;

/** The account of exactly this name; case, accents and width of letters aside. */
export async function findAccount(name: string): Promise<Owner | null> {
  const [owner] = await database()
    .select(OWNER)
    .from(owners)
    .where(eq(owners.username, usernameOf(name)));
  return owner ?? null;
}

/** Makes an account; null where there is one of that name. */
export async function makeAccount(name: string, password: string): Promise<Owner | null> {
  const { password: hasher } = await auth().$context;
  const hash = await hasher.hash(password);
  return database().transaction(async (tx) => {
    const owner = await makeOwner(name, tx);
    if (owner) await tx.insert(credentials).values(credentialOf(owner.id, hash));
    return owner;
  });
}

/** Makes an account without a password, which nobody can sign in to; null where there is one of that name. */
export async function makeOwner(
  name: string,
  db: Database | Transaction = database(),
): Promise<Owner | null> {
  const [owner] = await db
    .insert(owners)
    .values({ name, username: usernameOf(name), email: addressOf(name) })
    .onConflictDoNothing()
    .returning({ id: owners.id });
  return owner ? { id: owner.id, name, playerId: null } : null;
}

const credentialOf = (ownerId: string, hash: string): typeof credentials.$inferInsert => ({
  userId: ownerId,
  accountId: ownerId,
  providerId: BY_PASSWORD,
  password: hash,
});

/** Gives an account a new password and ends its sessions. */
export async function resetPassword(owner: Owner, password: string): Promise<void> {
  const { password: hasher } = await auth().$context;
  const hash = await hasher.hash(password);
  await database().transaction(async (tx) => {
    await tx
      .insert(credentials)
      .values(credentialOf(owner.id, hash))
      .onConflictDoUpdate({
        target: [credentials.userId, credentials.providerId],
        set: { password: hash, updatedAt: sql`now()` },
      });
    await tx.delete(sessions).where(eq(sessions.userId, owner.id));
  });
}

/** The cookies that open or end a session. */
export type Cookies = readonly string[];

const cookiesOf = (answer: Response): Cookies => answer.headers.getSetCookie();

export type SignUpOutcome = Cookies | 'closed' | 'taken' | 'tooMany';

/** Makes an account for whoever asks, and opens a session of it. */
export async function signUp(name: string, password: string): Promise<SignUpOutcome> {
  if (!settings().signUp) return 'closed';
  if (!(await mayTry('account', LIMITS.account))) return 'tooMany';
  if (!(await makeAccount(name, password))) return 'taken';
  return (await openSession(name, password))!;
}

async function openSession(name: string, password: string): Promise<Cookies | null> {
  const answer = await auth().api.signInEmail({
    body: { email: addressOf(name), password },
    asResponse: true,
  });
  return answer.ok ? cookiesOf(answer) : null;
}

/** Opens a session of the account of that name and password. */
export async function signIn(
  name: string,
  password: string,
): Promise<Cookies | 'wrong' | 'tooMany'> {
  if (!(await mayTryPassword(usernameOf(name)))) return 'tooMany';
  return (await openSession(name, password)) ?? 'wrong';
}

const mayTryPassword = async (account: string): Promise<boolean> =>
  (await mayTry(
    `password ${createHash('sha256').update(account).digest('hex')}`,
    LIMITS.password,
  )) && (await mayTry('passwords', LIMITS.passwords));

/** Opens a session of the demo account. */
export async function openDemo(): Promise<Cookies | 'closed'> {
  if (!settings().demo) return 'closed';
  return cookiesOf(await auth().api.openDemo({ asResponse: true }));
}

/** Ends the session that a request comes in. */
export async function signOut(headers: Headers): Promise<Cookies> {
  return cookiesOf(await auth().api.signOut({ headers, asResponse: true }));
}

export type PasswordOutcome = 'done' | 'wrong' | 'demo' | 'tooMany';

/** Whether somebody knows the password of an account that they are signed in to. */
async function checkPassword(owner: Owner, password: string): Promise<PasswordOutcome> {
  if (owner.id === DEMO_OWNER_ID) return 'demo';
  if (!(await mayTryPassword(usernameOf(owner.name)))) return 'tooMany';
  const [credential] = await database()
    .select({ password: credentials.password })
    .from(credentials)
    .where(and(eq(credentials.userId, owner.id), eq(credentials.providerId, BY_PASSWORD)));
  const { password: hasher } = await auth().$context;
  const hash = credential?.password;
  return hash && (await hasher.verify({ hash, password })) ? 'done' : 'wrong';
}

/** Changes the password and ends all sessions, the present one too; a new one is opened for who did it. */
export async function changePassword(
  owner: Owner,
  current: string,
  password: string,
): Promise<Cookies | Exclude<PasswordOutcome, 'done'>> {
  const checked = await checkPassword(owner, current);
  if (checked !== 'done') return checked;
  await resetPassword(owner, password);
  return (await openSession(owner.name, password))!;
}

/**
 * Ends an account: at once nobody can sign in to it or see what was in it, and its name is free. What belonged to it is then
 * removed by {@link removeClosed}.
 */
export async function closeAccount(owner: Owner, password: string): Promise<PasswordOutcome> {
  const checked = await checkPassword(owner, password);
  if (checked === 'done')
    await database().transaction(async (tx) => {
      const gone = `closed ${owner.id}`;
      await tx
        .update(owners)
        .set({ closedAt: new Date(), name: gone, username: gone, email: `${gone}@account.invalid` })
        .where(eq(owners.id, owner.id));
      await tx.delete(sessions).where(eq(sessions.userId, owner.id));
      await tx.delete(credentials).where(eq(credentials.userId, owner.id));
      await tx
        .delete(grants)
        .where(or(eq(grants.ownerId, owner.id), eq(grants.granteeId, owner.id)));
      await tx
        .update(asks)
        .set({ state: 'cancelled' })
        .where(and(eq(asks.ownerId, owner.id), inArray(asks.state, OPEN_STATES)));
    });
  return checked;
}

/** Games removed at a time: a library of many can't go in one statement that others wait for. */
const REMOVED_AT_ONCE = 200;

/** Removes all that belonged to accounts that have been ended. */
export async function removeClosed(): Promise<void> {
  const closed = await database()
    .select({ id: owners.id })
    .from(owners)
    .where(isNotNull(owners.closedAt));
  for (const { id } of closed) {
    for (;;) {
      const some = database()
        .select({ id: games.id })
        .from(games)
        .where(eq(games.ownerId, id))
        .limit(REMOVED_AT_ONCE);
      const removed = await database()
        .delete(games)
        .where(inArray(games.id, some))
        .returning({ id: games.id });
      if (removed.length === 0) break;
    }
    await database().delete(owners).where(eq(owners.id, id));
  }
}
