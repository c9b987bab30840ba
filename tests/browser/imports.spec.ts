import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { dropFile, kif, open, pgn, watchForErrors } from './support';

const PASSWORD = 'a long enough password';

/** What a click on a link brings, as text. */
async function downloaded(page: Page, name: string): Promise<string> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name }).first().click(),
  ]);
  return readFileSync(await download.path(), 'utf8');
}

test('files go where their sender wants them, and what can’t be read comes back', async ({
  browser,
}) => {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const data = { name: `Sender ${Date.now()}`, password: PASSWORD };
  await context.request.post('/api/account', { data });
  await context.request.post('/api/collections', { data: { name: 'Spring' } });
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await open(page, '/');
  const result = page.getByTestId('import-result').first();
  await dropFile(page, 'known.pgn', pgn('Known', '1. d4 d5 *'));
  await page.waitForURL(/\/games\/\d+$/);
  await open(page, '/');

  await page.getByRole('button', { name: 'Where they go' }).click();
  const wishes = page.getByRole('group', { name: 'Where they go' });
  await wishes.getByLabel('Into the collection').selectOption('Spring');
  await wishes.getByLabel('With the tags').fill('league, to show');
  await wishes.getByLabel('Whose games they are').fill('Nobody at all');
  await expect(wishes.getByText('Nobody of this name')).toBeVisible();
  await wishes.getByLabel('Whose games they are').fill('Mirela Tanase');
  await expect(wishes.getByText('Nobody of this name')).toHaveCount(0);

  const bad = pgn('Bad', '1. e4 e5 2. Ke3 *');
  const three = [pgn('A', '1. e4 *'), pgn('B', '1. c4 *'), bad].join('\n');
  await dropFile(page, 'three.pgn', three.replaceAll('Mirela Tanase', 'mirela_t'));
  await expect(result).toContainText('2 new games. 1 could not be read');
  expect(await downloaded(page, 'Get the list of what is wrong')).toMatch(
    /^three\.pgn:\d+:\d+: 3: 2\. Ke3 is not legal/,
  );
  const games = await downloaded(page, 'Get these games');
  expect(games.trim()).toBe(bad.replaceAll('Mirela Tanase', 'mirela_t').trim());

  // mended and dropped again
  await dropFile(page, 'not-taken-in.pgn', games.replace('Ke3', 'Ke2'));
  await page.waitForURL(/\/games\/\d+$/);
  // in the other game too
  await open(page, '/');
  const bad2 = kif('   1 ７六歩(77)\n   2 ３五歩(33)\n');
  const good2 = kif('   1 ７六歩(77)\n   2 投了\n');
  await dropFile(page, 'two.kifu', `${good2}\n${bad2}`);
  await expect(result).toContainText('1 new game. 1 could not be read');
  expect((await downloaded(page, 'Get these games')).trim()).toBe(bad2.trim());
  const again = three.replace('1. e4 *', '1. e4 {best by test} *');
  await dropFile(page, 'three.pgn', again.replaceAll('Mirela Tanase', 'mirela_t'));
  await expect(result).toContainText('2 were here already.');
  await expect(result).toContainText('1 of them gained');

  await open(page, '/?label=league');
  await expect(page.locator('.games-table tbody tr[data-index]')).toHaveCount(3);
  await page.getByRole('combobox', { name: 'Collection' }).first().selectOption({ index: 1 });
  await page.getByRole('button', { name: 'Find' }).first().click();
  await expect(page.locator('.games-table tbody tr[data-index]')).toHaveCount(3);
  await open(page, '/players');
  await expect(page.getByText('mirela_t')).toBeVisible();
  expect(errors).toEqual([]);
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
});
