import { expect, test, type Page } from '@playwright/test';
import { open, watchForErrors } from './support';

/** A square by its name in either game: `e1`, `5f`. */
const square = (page: Page, name: string) => {
  const [file, rank] = name as unknown as [string, string];
  const index = /\d/.test(file)
    ? (Number(file) - 1) * 9 + rank.charCodeAt(0) - 97
    : file.charCodeAt(0) - 97 + (Number(rank) - 1) * 8;
  return page.locator(`[data-square="${index}"]`);
};
const status = (page: Page) => page.getByRole('main').getByRole('status');

test('a chess position is set up piece by piece, with what is wrong with it said on the way', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await open(page, '/setup');
  await expect(status(page)).toHaveText('This position can be played from.');
  await page.getByRole('button', { name: 'Empty board' }).click();
  await expect(status(page)).toContainText('has no king');
  const put = async (piece: string, at: string): Promise<void> => {
    await page.getByRole('button', { name: piece, exact: true }).click();
    await square(page, at).click();
  };
  await put('White king', 'e1');
  await put('White rook', 'h1');
  await put('Black king', 'e8');
  await put('Black pawn', 'a1');
  await expect(status(page)).toContainText('a pawn stands on a1');
  // the same piece again takes it away
  await square(page, 'a1').click();
  await expect(status(page)).toHaveText('This position can be played from.');
  await page.getByLabel('White O-O', { exact: true }).check();
  await page.getByLabel('Black O-O-O').check();
  await expect(status(page)).toContainText('Castling q is not possible');
  await page.keyboard.press('Control+z');
  await expect(status(page)).toHaveText('This position can be played from.');
  await page.getByRole('main').getByLabel('Black', { exact: true }).check();
  await expect(page.getByLabel('As text')).toHaveValue('4k3/8/8/8/8/8/8/4K2R b K - 0 1');
  await page.getByRole('button', { name: 'Open on the Desk' }).click();
  await page.waitForURL(({ pathname }) => pathname === '/desk');
  await expect(page.locator('.position-text')).toHaveText('4k3/8/8/8/8/8/8/4K2R b K - 0 1');
  // and back, from the position on the board, however soon after the move
  await page.getByLabel('Next move').fill('Kd7');
  const link = await page.getByRole('link', { name: 'Set up from here' }).elementHandle();
  await page.evaluate((setUp) => {
    document.querySelector<HTMLFormElement>('.board-side .move-field')!.requestSubmit();
    (setUp as HTMLElement).click();
  }, link);
  await expect(page.getByLabel('As text')).toHaveValue('8/3k4/8/8/8/8/8/4K2R w K - 1 2');
  expect(errors).toEqual([]);
});

test('a shogi position with pieces in hand, by keyboard alone', async ({ page }) => {
  const errors = watchForErrors(page);
  await open(page, '/setup?kind=shogi');
  await page.getByRole('button', { name: 'Empty board' }).press('Enter');
  await expect(status(page)).toContainText('there is no king');
  const text = page.getByLabel('As text');
  await text.fill('4k4/9/4P4/9/9/9/9/9/4K4 b - 1');
  await text.press('Enter');
  await expect(status(page)).toHaveText('This position can be played from.');
  await page.getByRole('button', { name: 'One gold more for Black' }).press('Enter');
  await expect(text).toHaveValue('4k4/9/4P4/9/9/9/9/9/4K4 b G 1');
  // two pawns on a file
  await page.getByRole('button', { name: 'Black pawn', exact: true }).press('Enter');
  await square(page, '5f').click();
  await expect(status(page)).toContainText('nifu');
  await text.fill('4k4/9/4P4/9/9/9/9/9 b - 1');
  await text.press('Enter');
  await expect(page.getByRole('main').getByRole('alert')).toContainText('nine');
  await page.getByRole('button', { name: 'Undo' }).press('Enter');
  await page.getByRole('button', { name: 'Open on the Desk' }).press('Enter');
  await page.waitForURL(({ pathname }) => pathname === '/desk');
  await expect(page.locator('.position-text')).toHaveText('4k4/9/4P4/9/9/9/9/9/4K4 b G 1');
  expect(errors).toEqual([]);
});
