import { expect, test } from '@playwright/test';
import { dropFile, kif, open, pgn, watchForErrors } from './support';

const MATES = ['1. e4 e5 2. Qh5 Nc6 3. Bc4 Nf6 4. Qxf7# 1-0', '1. f3 e5 2. g4 Qh4# 0-1'];
/** Pawn moves in an order that nobody has had: nothing is known of them yet, and they are looked at for long. */
function newLine(): string {
  const order = (): string[] =>
    [...'abcdefgh']
      .map((file) => [Math.random(), file] as const)
      .sort(([one], [other]) => one - other)
      .map(([, file]) => file);
  const [white, black] = [order(), order()];
  return `${white.map((file, at) => `${at + 1}. ${file}3 ${black[at]}6`).join(' ')} *`;
}
const SHOGI = kif('   1 ７六歩(77)\n   2 ３四歩(33)\n   3 ２二角成(88)\n   4 同　銀(31)\n');

test('the games of a filter are gone over together, and the list tells how accurate they were', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await open(page, '/');
  const guest = `Guest ${Date.now()}`;
  const games = MATES.map((moves) => pgn('Evening', moves).replace('Jonas Brandt', guest));
  await dropFile(page, 'evening.pgn', games.join('\n'));
  await expect(page.getByTestId('import-result')).toContainText('2 new games');
  await dropFile(page, 'evening.kif', SHOGI.replace('Aino Lehtisaari', guest));
  await page.waitForURL(/\/games\/\d+/);

  await open(page, `/?text=${encodeURIComponent(guest)}`);
  const panel = page.getByRole('region', { name: 'Sweeps of many games' });
  const ask = panel.getByRole('button', { name: 'Go over these 3 games …' });
  const dialog = page.getByRole('dialog', { name: 'How to go over it' });
  const start = dialog.getByRole('button', { name: 'Go over it' });
  const effort = dialog.getByLabel(/How long at a position/);
  const row = panel.getByTestId('batch').first();
  await ask.click();
  await effort.selectOption('average nodes 100000');
  await expect(dialog.getByLabel('Only games not gone over yet')).toBeChecked();
  await expect(dialog.getByLabel(/Only my moves/)).not.toBeChecked();
  await start.click();
  await expect(row).toContainText('3 of 3 games · done', { timeout: 90_000 });
  // without a reload
  const rated = page.locator('tbody tr').filter({ hasText: /−\d+, move|none/ });
  await expect(rated).toHaveCount(3);

  // their figures side by side, each opening before its worst moment
  const table = page.getByRole('table');
  await expect(page.getByText('3 of 3').first()).toBeVisible();
  const worst = table.getByRole('link', { name: /^−\d+, move/ });
  await expect(worst.first()).toBeVisible();
  const header = table.getByRole('columnheader', { name: 'Worst moment' });
  await header.getByRole('link').click();
  await expect(header).toHaveAttribute('aria-sort', 'descending');
  const losses = async () =>
    (await worst.allTextContents()).map((text) => Number(/−(\d+)/.exec(text)![1]));
  expect(await losses()).toEqual((await losses()).toSorted((a, b) => b - a));
  await header.getByRole('link').click();
  await expect(header).toHaveAttribute('aria-sort', 'ascending');
  expect(await losses()).toEqual((await losses()).toSorted((a, b) => a - b));
  // pointed at, it shows the position; it opens the Desk there
  await worst.last().hover();
  await expect(table.getByRole('img', { name: /^Position / })).toBeVisible();
  const ply = /ply=(\d+)/.exec((await worst.last().getAttribute('href'))!)![1]!;
  await worst.last().click();
  await expect(page.locator(`[data-ply="${ply}"]`)).toHaveAttribute('aria-current', 'step');
  await open(page, `/?text=${encodeURIComponent(guest)}`);

  // chosen one by one
  await page
    .getByRole('checkbox', { name: /^Choose .*Mirela/ })
    .first()
    .check();
  await expect(panel.getByRole('button', { name: 'Go over the game chosen …' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Choose all games of the list' }).check();
  await expect(panel.getByRole('button', { name: 'Go over the 3 games chosen …' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Choose all games of the list' }).uncheck();

  // nothing is left to go over, unless what has been is not left out
  await ask.click();
  await start.click();
  await expect(panel.getByRole('alert')).toHaveText('None of these games is left to go over.');
  await ask.click();
  await effort.selectOption('average nodes 10000000');
  await dialog.getByLabel('Only games not gone over yet').uncheck();
  await start.click();
  await row.getByRole('button', { name: 'Pause' }).click();
  await expect(row).toContainText('paused');
  await row.getByRole('button', { name: 'Go on' }).click();
  await expect(row.getByRole('button', { name: 'Pause' })).toBeVisible();
  await row.getByRole('button', { name: 'Stop' }).click();
  await expect(row).toContainText('stopped; what was found stays');
  // the findings of before are still there
  await expect(rated).toHaveCount(3);
  // the refusal, as the browser tells it
  expect(errors).toEqual([expect.stringContaining('422')]);
});

test('a game that waits in a batch is gone over now', async ({ page }) => {
  await open(page, '/');
  const guest = `Crowd ${Date.now()}`;
  // as many as are begun at once, and one that waits
  const line = newLine();
  const games = Array.from({ length: 5 }, (_, index) =>
    pgn(`Round ${index}`, line).replace('Jonas Brandt', `${guest} ${index}`),
  );
  await dropFile(page, 'crowd.pgn', games.join('\n'));
  await expect(page.getByTestId('import-result')).toContainText('5 new games');
  await open(page, `/?text=${encodeURIComponent(guest)}`);
  const panel = page.getByRole('region', { name: 'Sweeps of many games' });
  await panel.getByRole('button', { name: 'Go over these 5 games …' }).click();
  const dialog = page.getByRole('dialog', { name: 'How to go over it' });
  await dialog.getByLabel(/How long at a position/).selectOption('average nodes 10000000');
  await dialog.getByLabel(/Only my moves/).check();
  await dialog.getByRole('button', { name: 'Go over it' }).click();
  const row = panel.getByTestId('batch').first();
  await expect(row).toContainText('0 of 5 games');

  // the one that came first is the last of the batch
  await page.getByRole('link', { name: new RegExp(`${guest} 0`) }).click();
  await expect(page.getByText('Waiting among many games …')).toBeVisible();
  await page.getByRole('button', { name: 'Go over it now' }).click();
  await expect(page.getByText(/\d of 16 positions/)).toBeVisible();
  // as it was wished with the others
  const review = await page.request.get(`/api${new URL(page.url()).pathname}/review`);
  expect(((await review.json()) as { sweep: { settings: string } }).sweep.settings).toBe(
    'average nodes 10000000 side 0',
  );
  const desk = page.url();
  await open(page, `/?text=${encodeURIComponent(guest)}`);
  await expect(row).toContainText('of 4 games · a game that was asked for by itself goes first');
  await open(page, desk);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByText('Stopped; what was found stays.')).toBeVisible();
  await open(page, `/?text=${encodeURIComponent(guest)}`);
  await expect(row).toContainText('of 4 games');
  await expect(row).not.toContainText('goes first');
  await row.getByRole('button', { name: 'Stop' }).click();
  await expect(row).toContainText('stopped; what was found stays');
});

test('games are gone over as soon as they are in, where that was chosen', async ({ page }) => {
  await open(page, '/');
  await page.getByLabel('Whether games are gone over as soon').selectOption('average nodes 100000');
  const guest = `Arrival ${Date.now()}`;
  const games = MATES.map((moves) => pgn(guest, moves));
  await dropFile(page, 'arrival.pgn', games.join('\n'));
  await expect(page.getByTestId('import-result')).toContainText('2 new games');
  const row = page.getByTestId('batch').first();
  await expect(row).toContainText('2 of 2 games · done', { timeout: 90_000 });
  await open(page, `/?text=${encodeURIComponent(guest)}`);
  await expect(page.locator('tbody tr').filter({ hasText: /−\d+, move|none/ })).toHaveCount(2);
});
