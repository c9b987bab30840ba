import { expect, test } from '@playwright/test';
import { dropFile, kif, open, pgn, watchForErrors } from './support';

const PASSWORD = 'a long enough password';

test('games are put into a collection, found in it, given with it and taken out again', async ({
  browser,
}) => {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  const errors = watchForErrors(page);
  const name = `Collector ${Date.now()}`;
  await context.request.post('/api/account', { data: { name, password: PASSWORD } });
  for (const [file, text] of [
    ['a.pgn', pgn('Club', '1. e4 e5 1-0')],
    ['b.kifu', kif('   1 ７六歩(77)\n   2 ３四歩(33)\n   3 投了')],
  ] as const) {
    await open(page, '/');
    await dropFile(page, file, text);
    await expect(page).toHaveURL(/games\/\d+/);
  }
  await open(page, '/');
  const rows = page.locator('.games-table tbody tr');
  await expect(rows).toHaveCount(2);
  await rows.filter({ hasText: 'Chess' }).getByRole('checkbox').check();
  await page.getByLabel('Name of a collection').fill('  Rook   endings ');
  await page.getByRole('button', { name: 'Put the game chosen into it' }).click();
  await expect(page.getByText('1 game put into Rook endings.')).toBeVisible();

  await page.getByLabel('Collection', { exact: true }).selectOption('Rook endings (1)');
  await page.getByRole('button', { name: 'Find' }).click();
  await expect(rows).toHaveCount(1);
  await expect(page).toHaveURL(/collection=\d+/);
  await page.reload();
  await expect(rows).toHaveCount(1);

  // it can be given as a whole, with what comes into it later
  await open(page, '/given');
  await page.getByLabel('What').selectOption('The collection Rook endings');
  await page.getByLabel('To whom').selectOption('Whoever has a link');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = (await page.getByRole('listitem').getByRole('link').textContent())!;
  const visitor = await (
    await browser.newContext({ storageState: { cookies: [], origins: [] } })
  ).newPage();
  await visitor.goto(link);
  await expect(
    visitor.getByRole('heading', { name: `Rook endings, games of ${name}` }),
  ).toBeVisible();
  await expect(visitor.locator('.games-table tbody tr')).toHaveCount(1);
  await open(page, '/');
  await rows.filter({ hasText: 'Shogi' }).getByRole('checkbox').check();
  await page.getByLabel('Name of a collection').fill('Rook endings');
  await page.getByRole('button', { name: 'Put the game chosen into it' }).click();
  await expect(page.getByText('1 game put into Rook endings.')).toBeVisible();
  await visitor.reload();
  await expect(visitor.locator('.games-table tbody tr')).toHaveCount(2);

  await page.getByLabel('Collection', { exact: true }).selectOption('Rook endings (2)');
  await page.getByRole('button', { name: 'Find' }).click();
  await rows.filter({ hasText: 'Chess' }).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Take them out of Rook endings' }).click();
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: 'Take the collection Rook endings away' }).click();
  await expect(rows).toHaveCount(2);
  await expect(page.getByLabel('Collection', { exact: true })).toHaveCount(0);
  await visitor.reload();
  await expect(visitor.getByRole('alert').first()).toContainText('leads to nothing any more');
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
  expect(errors).toEqual([]);
});
