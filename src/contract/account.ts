import * as z from 'zod';
import { contract } from './contract';
import { words } from './words';

/** Lengths in characters. */
export const NAME_LENGTH = { least: 2, most: 40 } as const;
export const PASSWORD_LENGTH = { least: 10, most: 128 } as const;

export const accountName = words(NAME_LENGTH.most).pipe(z.string().min(NAME_LENGTH.least));

const password = z.string().min(PASSWORD_LENGTH.least).max(PASSWORD_LENGTH.most);
/** What is tried need not be long enough. */
const tried = z.string().min(1).max(PASSWORD_LENGTH.most);

/** Refused with 403 `closed` where the operator wants none, 409 `taken`, 429 `tooMany`. */
export const signUp = contract('POST', '/api/account', {
  needs: 'nothing',
  body: z.object({ name: accountName, password }),
});

/** Refused with 403 `wrong`, whichever of the two is, and 429 `tooMany`. */
export const signIn = contract('POST', '/api/account/session', {
  needs: 'nothing',
  body: z.object({ name: accountName, password: tried }),
});

/** Opens the demo account. Refused with 403 `closed` where the operator wants none. */
export const openDemo = contract('POST', '/api/account/demo', { needs: 'nothing' });

export const signOut = contract('DELETE', '/api/account/session', { needs: 'nothing' });

/** All other sessions end. Refused with 403 `wrong` or `demo`. */
export const changePassword = contract('PUT', '/api/account', {
  body: z.object({ current: tried, password }),
});

/** Ends the account with all that is in it. Refused with 403 `wrong` or `demo`. */
export const closeAccount = contract('POST', '/api/account/close', {
  body: z.object({ password: tried }),
});
