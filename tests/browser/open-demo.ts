import { request, type FullConfig } from '@playwright/test';
import { CARDS } from '../../src/ui/desk/card-names';

/** Where a run of browser tests keeps what it writes. */
export const FOLDER = process.env.BEKTRA_TEST_FOLDER ?? '.data-test/browser';

/** What browsers of tests begin with: the demo account is open. */
export const DEMO_STATE = `${FOLDER}/demo-state.json`;

/** All cards of the Desk are open, so that a test finds what it looks for; how they open is a test of its own. */
const cards = {
  name: 'bektra-cards',
  value: JSON.stringify({ state: { open: CARDS }, version: 0 }),
};

/** Opens the demo account once for all tests. */
export default async function openDemo({ projects }: FullConfig): Promise<void> {
  const { baseURL } = projects[0]!.use;
  const { origin } = new URL(baseURL!);
  const visitor = await request.newContext({
    baseURL: origin,
    storageState: { cookies: [], origins: [{ origin, localStorage: [cards] }] },
  });
  const opened = await visitor.post('/api/account/demo');
  if (!opened.ok()) throw new Error(`the demo account can't be opened: ${opened.status()}`);
  await visitor.storageState({ path: DEMO_STATE });
  await visitor.dispose();
}
