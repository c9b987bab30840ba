import { expect, test, type Page } from '@playwright/test';
import { kif, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn('Cards', '1. e4 e5 2. Nf3 Nc6 3. Bc4 Nf6 *');
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
`);

// as a new visitor finds them
test.use({ storageState: { cookies: [], origins: [] } });
test.beforeEach(async ({ context }) => {
  await context.request.post('/api/account/demo');
});

const card = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const title = (page: Page, name: string) =>
  card(page, name).getByRole('button', { name: new RegExp(`^${name}`) });
const names = (page: Page): Promise<(string | null)[]> =>
  page.locator('.card-box').evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')));

test('every card answers with its headline, and shows more when it is opened, which is remembered', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'cards.pgn', CHESS);
  // the board, the sheet, all headlines and an open card fit on the screen
  for (const name of await names(page))
    await expect(card(page, name!)).toBeInViewport({ ratio: 1 });
  await expect(title(page, 'Lines')).toHaveAttribute('aria-expanded', 'true');
  await expect(title(page, 'Position')).toHaveAttribute('aria-expanded', 'false');
  await expect(title(page, 'Position')).toContainText('1. White to move');
  await page.keyboard.press('ArrowRight');
  await expect(title(page, 'Position')).toContainText('1… Black to move');
  await title(page, 'Position').click();
  await expect(card(page, 'Position').getByRole('button', { name: 'Where else?' })).toBeVisible();
  await title(page, 'Lines').click();
  await expect(title(page, 'Lines')).toContainText('not looked at yet');
  await page.reload();
  await expect(title(page, 'Position')).toHaveAttribute('aria-expanded', 'true');
  await expect(title(page, 'Lines')).toHaveAttribute('aria-expanded', 'false');
  // by its number, and back
  await page.keyboard.press('1');
  await expect(title(page, 'Lines')).toHaveAttribute('aria-expanded', 'true');
  await expect(title(page, 'Lines')).toBeFocused();
  await page.keyboard.press('1');
  await expect(title(page, 'Lines')).toHaveAttribute('aria-expanded', 'false');
  expect(errors).toEqual([]);
});

test('cards are put in another order by their grips, by keys and by hand', async ({ page }) => {
  await takeIn(page, 'order.kif', SHOGI);
  const first = await names(page);
  const grip = page.getByRole('button', { name: 'Move Game' });
  await grip.focus();
  await page.keyboard.press('ArrowUp');
  await expect(grip).toBeFocused();
  await expect(page.getByText(`Game: place ${first.length - 1} of ${first.length}`)).toBeAttached();
  // the game stays where it is
  await expect(title(page, 'Position')).toContainText('Black to move');
  expect((await names(page)).slice(-2)).toEqual(['Game', 'Position']);
  const from = (await page.getByRole('button', { name: 'Move Position' }).boundingBox())!;
  const to = (await page.getByRole('button', { name: 'Move Lines' }).boundingBox())!;
  await page.mouse.move(from.x + 5, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(to.x + 5, to.y + 30, { steps: 8 });
  await page.mouse.move(to.x + 5, to.y + 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await names(page))[0]).toBe('Position');
  await page.reload();
  await expect.poll(async () => (await names(page))[0]).toBe('Position');
});

test('a card is spread over the place of the sheet, and gathered again', async ({ page }) => {
  await takeIn(page, 'spread.pgn', CHESS);
  await title(page, 'Candidates').click();
  const candidates = card(page, 'Candidates');
  for (const move of ['d4', 'Nf3']) {
    await candidates.getByRole('textbox', { name: 'Pin a move' }).fill(move);
    await page.keyboard.press('Enter');
  }
  const narrow = (await candidates.boundingBox())!.width;
  await candidates.getByRole('button', { name: 'Spread over the sheet' }).click();
  await expect(page.getByRole('region', { name: 'Sheet' })).toBeHidden();
  expect((await candidates.boundingBox())!.width).toBeGreaterThan(1.7 * narrow);
  // what was pinned is there still
  await expect(candidates.locator('.pinned')).toHaveText([/d4/, /Nf3/]);
  await candidates.getByRole('button', { name: 'Weigh' }).click();
  const table = candidates.locator('.comparison');
  await expect(table.getByRole('row').first()).toContainText(/now.*d4.*Nf3/);
  await candidates.getByRole('button', { name: 'Back beside the sheet' }).click();
  await expect(page.getByRole('region', { name: 'Sheet' })).toBeVisible();
});

test('on a phone one card at a time is opened from the headlines under the board', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await takeIn(page, 'phone.pgn', CHESS);
  for (const name of await names(page))
    await expect(title(page, name!)).toHaveAttribute('aria-expanded', 'false');
  const course = (await page.getByRole('region', { name: 'Course' }).boundingBox())!;
  const lines = (await card(page, 'Lines').boundingBox())!;
  const sheet = (await page.getByRole('region', { name: 'Sheet' }).boundingBox())!;
  expect(lines.y).toBeGreaterThan(course.y);
  expect(sheet.y).toBeGreaterThan(lines.y);
  await title(page, 'Game').click();
  await expect(title(page, 'Game')).toHaveAttribute('aria-expanded', 'true');
  await title(page, 'Position').click();
  await expect(title(page, 'Game')).toHaveAttribute('aria-expanded', 'false');
});
