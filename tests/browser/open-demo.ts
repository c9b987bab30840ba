import { request } from '@playwright/test';
import { CARDS } from '../../src/ui/desk/card-names';

/** Where a run of browser tests keeps what it writes. */
export const FOLDER = process.env.BEKTRA_TEST_FOLDER ?? '.data-test/browser';

/** The apps that tests run beside, one for each worker of the run: much of a test is waiting. */
export const APPS = (process.env.BEKTRA_TEST_URL ?? 'http://127.0.0.1:3210/').split(' ');
const here = Number(process.env.TEST_PARALLEL_INDEX ?? 0);

/** The app of this worker. */
export const APP = APPS[here]!;

const stateOf = (app: number): string => `${FOLDER}/demo-state-${app}.json`;

/** What browsers of tests begin with: the demo account is open. */
export const DEMO_STATE = stateOf(here);

/** All cards of the Desk are open, so that a test finds what it looks for; how they open is a test of its own. */
const cards = {
  name: 'bektra-cards',
  value: JSON.stringify({ state: { open: CARDS }, version: 0 }),
};

/** Opens the demo account of each app once for all tests. */
export default async function openDemo(): Promise<void> {
  for (const [at, app] of APPS.entries()) {
    const { origin } = new URL(app);
    const visitor = await request.newContext({
      baseURL: origin,
      storageState: { cookies: [], origins: [{ origin, localStorage: [cards] }] },
    });
    const opened = await visitor.post('/api/account/demo');
    if (!opened.ok()) throw new Error(`the demo account can't be opened: ${opened.status()}`);
    await visitor.storageState({ path: stateOf(at) });
    await visitor.dispose();
  }
}
