import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { boardWords, open, watchForErrors } from './support';

test('the whole interface is read in Japanese, kept on the next visit, and in English again', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await open(page, '/?kind=shogi');
  const game = await page.locator('.games-table tbody a').first().getAttribute('href');
  await page.getByRole('button', { name: '日本語で読む' }).click();
  await expect(page.getByRole('heading', { name: '対局', level: 1 })).toBeVisible();
  await expect(page.locator('html')).toHaveAttribute('lang', 'ja');
  for (const [path, heading] of [
    [game!, '読み筋'],
    ['/games/new', '対局を入力'],
    ['/lessons', '教訓'],
    ['/endings', '終盤'],
  ] as const) {
    await open(page, path);
    await expect(page.getByRole('heading', { name: heading })).toBeVisible();
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map(({ id, nodes }) => [path, id, nodes[0]?.html])).toEqual([]);
  }
  await open(page, game!);
  await expect(boardWords(page)).toHaveText(/^盤面、[先後]手の手番。 .*玉 .*歩 /);
  await page.getByRole('button', { name: 'Read this in English' }).click();
  await expect(page.getByRole('heading', { name: 'Lines' })).toBeVisible();
  expect(errors).toEqual([]);
});

test.describe('a browser that asks for Japanese', () => {
  test.use({ locale: 'ja-JP' });
  test('gets it', async ({ page }) => {
    await open(page, '/');
    await expect(page.getByRole('heading', { name: '対局', level: 1 })).toBeVisible();
  });
});
