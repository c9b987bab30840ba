import { randomBytes } from 'node:crypto';
import { accountName } from '@/contract/account';
import { findAccount, makeAccount, resetPassword } from '@/server/accounts';
import { migrateDatabase } from '@/server/database';
import { DEMO_OWNER_ID } from '@/server/owner';
import { CommandError, EXIT, usageError } from './exit';
import { withDatabase } from './serve/serve';

const say = (text: string): void => void process.stdout.write(`${text}\n`);

const newPassword = (): string => randomBytes(12).toString('base64url');

/** `account make|reset NAME`: makes an account, or gives one a new password, and prints the password. */
export async function account(
  action: string | undefined,
  name: string | undefined,
): Promise<number> {
  if ((action !== 'make' && action !== 'reset') || name === undefined)
    throw usageError('Say what, and for whom: ./bektra account make|reset NAME');
  const checked = accountName.safeParse(name);
  if (!checked.success) throw usageError('A name has 2 to 40 characters.');
  const password = newPassword();
  await withDatabase(async () => {
    await migrateDatabase();
    await (action === 'make' ? make : reset)(checked.data, password);
  });
  say(`Password: ${password}`);
  say('It can be changed under Account in the app.');
  return EXIT.done;
}

async function make(name: string, password: string): Promise<void> {
  if (!(await makeAccount(name, password)))
    throw new CommandError(`There is an account of the name ${name} already.`, EXIT.problems);
}

async function reset(name: string, password: string): Promise<void> {
  const owner = await findAccount(name);
  if (!owner) throw new CommandError(`There is no account of the name ${name}.`, EXIT.problems);
  if (owner.id === DEMO_OWNER_ID)
    throw new CommandError('The demo account has no password.', EXIT.problems);
  await resetPassword(owner, password);
}
