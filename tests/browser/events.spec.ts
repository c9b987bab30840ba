import { randomUUID } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { dropFile, open } from './support';

/** Two games that no library holds yet. */
const newGames = (): string =>
  `[Event "Canal Cup"]\n[Round "${randomUUID()}"]\n\n1. c4 e5 2. g3 Nf6 *\n\n[Event "Canal Cup"]\n[Round "${randomUUID()}"]\n\n1. c4 c5 *\n`;

test('all tabs share one stream, which passes on when its tab is closed', async ({ context }) => {
  let streams = 0;
  context.on('request', (request) => {
    if (request.url().endsWith('/api/events')) streams++;
  });
  const first = await context.newPage();
  await open(first, '/');
  await expect.poll(() => streams).toBe(1);
  const second = await context.newPage();
  await open(second, '/');
  await dropFile(second, 'one.pgn', newGames());
  await expect(second.getByTestId('import-result')).toContainText('2 new games');
  expect(streams).toBe(1);

  await first.close();
  await expect.poll(() => streams).toBe(2);
  await dropFile(second, 'two.pgn', newGames());
  await expect(second.getByTestId('import-result').first()).toContainText('2 new games');
});

test('news that comes while the state of an import is being asked for is not lost', async ({
  context,
  page,
}) => {
  const other = await context.newPage();
  await open(other, '/');
  await open(page, '/');
  let asked = 0;
  await page.route('**/api/imports/*', async (route) => {
    if (++asked > 1) return route.continue();
    const response = await route.fetch();
    const status = (await response.json()) as { id: number };
    await expect
      .poll(async () => ((await (await route.fetch()).json()) as { state: string }).state)
      .toBe('done');
    await other.evaluate(
      (id) => new BroadcastChannel('bektra-events').postMessage({ type: 'import', id }),
      status.id,
    );
    await page.waitForTimeout(500);
    await route
      .fulfill({ response, json: { ...status, state: 'running', read: 0 } })
      .catch(() => undefined);
  });
  await dropFile(page, 'race.pgn', newGames());
  await expect(page.getByTestId('import-result')).toContainText('2 new games');
  await page.unrouteAll({ behavior: 'wait' });
});
