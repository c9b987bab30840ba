import { expect, test, type Page } from '@playwright/test';
import { kif, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn('Deeper', `1. e4 e5 2. Nf3 Nc6 3. Bc4 Nf6 4. Ng5 d5 *`);
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
`);

const card = (page: Page) => page.getByRole('region', { name: 'Deeper' });

test('a doubted position is looked at much deeper, and the end of it told on any page', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'deeper.pgn', CHESS);
  const game = new URL(page.url()).pathname;
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
  await card(page).getByRole('button', { name: 'I doubt this' }).click();
  await expect(card(page).getByRole('article', { name: 'Bektra' })).toBeVisible();
  await page.getByRole('navigation', { name: 'Places' }).getByText('Games').click();
  await page.waitForURL((url) => url.pathname === '/');
  const news = page.getByRole('alert').filter({ hasText: 'has looked at' });
  await expect(news).toContainText('Bektra has looked at the position after ply 6');
  await news.getByRole('link', { name: 'See what it found' }).click();
  await page.waitForURL((url) => url.pathname === game);
  await expect(page.locator('.move.current')).toHaveText(/^Nf6/);
  const found = card(page).getByRole('article', { name: 'Bektra' });
  await expect(found.getByRole('status')).toContainText(/done · depth \d+ · 0\.\d M/);
  await expect(found.locator('tbody tr')).toHaveCount(3);
  // a line of it goes into the sheet
  const third = found.locator('tbody tr').nth(2).locator('.inline-move').first();
  const text = (await third.textContent())!;
  await third.click();
  await expect(page.locator('.current').first()).toHaveText(text);
  // and it belongs to its position alone
  await expect(card(page).getByRole('article')).toHaveCount(0);
  await page.keyboard.press('ArrowLeft');
  await card(page).getByRole('button', { name: 'Take away what Bektra found' }).click();
  await expect(card(page).getByRole('article')).toHaveCount(0);
  expect(errors).toEqual([]);
});

test('two engines side by side: ours, and one of the server with its options', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'beside.pgn', CHESS);
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await card(page).getByLabel('Time for Second opinion').selectOption('0:05');
  await card(page).getByRole('button', { name: 'Ask Second opinion' }).click();
  await card(page).getByRole('button', { name: 'I doubt this' }).click();
  const [other, own] = ['Second opinion', 'Bektra'].map((name) =>
    card(page).getByRole('article', { name }),
  );
  await expect(own!.getByRole('status')).toContainText('done');
  // it is told of while the other still looks, and after
  await expect(other!.locator('tbody tr')).toHaveCount(3);
  await expect(other!.getByRole('status')).toContainText(/done · depth \d+.*White's view/);
  const [left, right] = await Promise.all([other!.boundingBox(), own!.boundingBox()]);
  expect(Math.abs(left!.y - right!.y)).toBeLessThan(5);

  await card(page)
    .getByText(/^3 options$/)
    .first()
    .click();
  await expect(card(page).getByText('Hash: 8')).toBeVisible();
  // one whose options do not fit says so, and can't be asked
  await expect(card(page).getByText(/Cannot be used: Hash: a whole number/)).toBeVisible();
  await expect(card(page).getByRole('button', { name: 'Ask Misconfigured' })).toBeDisabled();
  expect(errors).toEqual([]);
});

test('in shogi too', async ({ page }) => {
  await takeIn(page, 'deeper.kifu', SHOGI);
  await page.keyboard.press('ArrowRight');
  await card(page).getByLabel('Time for Second opinion (shogi)').selectOption('0:05');
  await card(page).getByRole('button', { name: 'Ask Second opinion (shogi)' }).click();
  await card(page).getByRole('button', { name: 'I doubt this' }).click();
  // told of on the same page too, from where it leads back to the position
  await page.keyboard.press('End');
  await expect(page.locator('.move.current')).toHaveAttribute('data-ply', '2');
  const news = page.getByRole('alert').filter({ hasText: 'Bektra has looked at' });
  await news.getByRole('link', { name: 'See what it found' }).click();
  await expect(page.locator('.move.current')).toHaveAttribute('data-ply', '1');
  for (const name of ['Bektra', 'Second opinion (shogi)']) {
    const found = card(page).getByRole('article', { name });
    await expect(found.getByRole('status')).toContainText('done');
    await expect(found.locator('tbody tr')).toHaveCount(3);
  }
});
