import { makeAccount, signIn } from '@/server/accounts';
import type { Owner } from '@/server/owner';

const PASSWORD = 'a long enough password';

/** A new account. */
export const newAccount = async (name: string): Promise<Owner> =>
  (await makeAccount(name, PASSWORD))!;

/** What a browser sends once it is signed in to an account of `newAccount`. */
export async function cookieOf(name: string): Promise<string> {
  const cookies = await signIn(name, PASSWORD);
  if (typeof cookies === 'string') throw new Error(cookies);
  return cookiesAsSent(cookies);
}

export const cookiesAsSent = (cookies: readonly string[]): string =>
  cookies.map((cookie) => cookie.split(';')[0]!).join('; ');
