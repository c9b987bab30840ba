import { expect, test, type Page } from '@playwright/test';
import { kif, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn('Candidates', `1. e4 e5 2. Nf3 Nc6 3. Bc4 Nf6 4. Ng5 d5 5. exd5 *`);
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
`);

const card = (page: Page) => page.getByRole('region', { name: 'Candidates' });
async function pin(page: Page, move: string): Promise<void> {
  const field = card(page).getByRole('textbox', { name: 'Pin a move' });
  await field.fill(move);
  await field.press('Enter');
}

test('candidates are pinned, guessed and weighed at equal depth, and one goes into the sheet', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'candidates.pgn', CHESS);
  await page.keyboard.press('End');
  const weigh = card(page).getByRole('button', { name: 'Weigh' });
  await expect(weigh).toBeDisabled();
  await pin(page, 'Na5');
  // from the board: the queen is lost there, so there is no doubt about which comes out best
  await card(page).getByRole('button', { name: 'from the board' }).click();
  await page.locator('[data-square="59"]').click();
  await page.locator('[data-square="35"]').click();
  await card(page).getByRole('button', { name: 'from the board' }).click();
  await expect(card(page).locator('.pinned')).toHaveText([/Na5/, /Qxd5/]);
  await card(page).getByLabel('My guess:').selectOption({ label: 'Qxd5' });
  await weigh.click();
  await expect(card(page).getByText('You guessed Qxd5; Na5 came out best.')).toBeVisible({
    timeout: 60_000,
  });
  const articles = card(page).getByRole('article');
  await expect(articles).toHaveCount(2);
  await expect(articles.nth(0)).toContainText(/−?\d+\.\d+ \(\d+ %\)/);
  await expect(articles.nth(0)).toContainText('best reply');
  await expect(articles.nth(0).locator('[data-board=chess]')).toBeVisible();
  await expect(card(page).locator('.comparison')).toContainText('material');
  await expect(card(page).getByText(/depth \d+ · Black's view/)).toBeVisible();
  await articles.nth(0).getByRole('button', { name: 'Put it into the sheet' }).click();
  const sheet = page.getByRole('region', { name: 'Moves of the game' });
  await expect(sheet.getByText(/%\), depth \d+/)).toBeVisible();
  // taken out again
  await card(page).getByRole('button', { name: 'Take Na5 out' }).click();
  await expect(card(page).locator('.pinned')).toHaveCount(1);
  // elsewhere in the game neither candidates nor guess of this position are left
  await page.keyboard.press('Home');
  await expect(card(page).locator('.pinned')).toHaveCount(0);
  await pin(page, 'e4');
  await pin(page, 'd4');
  await weigh.click();
  await expect(card(page).getByRole('article')).toHaveCount(2);
  expect(errors).toEqual([]);
});

test('a move that is typed as soon as the board has stepped is pinned there', async ({ page }) => {
  await takeIn(page, 'at-once.pgn', CHESS);
  await page.keyboard.press('Home');
  await pin(page, 'd4');
  await expect(card(page).locator('.pinned')).toHaveText([/d4/]);
  await page.evaluate(() => {
    // before anything that the page puts off has had its turn
    const field = document.querySelector<HTMLInputElement>('.candidates-card .move-field input')!;
    document.body.dispatchEvent(
      new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }),
    );
    const { set } = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!;
    set!.call(field, 'e5');
    field.dispatchEvent(new Event('input', { bubbles: true }));
    field.form!.requestSubmit();
  });
  await expect(card(page).locator('.pinned')).toHaveText([/e5/]);
  await expect(card(page).getByRole('alert')).toHaveCount(0);
});

test('what was calculated during the game is gone over up to where it fails', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'calculation.pgn', CHESS);
  await page.keyboard.press('End');
  const calculation = page.getByRole('region', { name: 'My calculation' });
  const field = calculation.getByRole('textbox');
  await field.fill('Nxd5 Nxf8');
  await field.press('Enter');
  await expect(calculation.getByRole('alert')).toBeVisible();
  // Black overlooks that the queen can simply be taken
  await field.fill('Na5 Bb5+ Qd7 a3 c6');
  await field.press('Enter');
  await expect(calculation.getByText(/fails|need not play/)).toBeVisible({ timeout: 60_000 });
  await expect(calculation.getByText(/better:|the reply not seen:/)).toBeVisible();
  await expect(calculation.locator('.inline-move').first()).toBeVisible();
  // a good line holds
  await field.fill('Na5 Bb5+ c6 dxc6 bxc6');
  await field.press('Enter');
  await expect(calculation.getByText('It holds')).toBeVisible({ timeout: 60_000 });
  expect(errors).toEqual([]);
});

test('shogi candidates and calculation', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'candidates.kifu', SHOGI);
  await page.keyboard.press('End');
  await pin(page, '2g2f');
  await pin(page, 'Bx2b+');
  await card(page).getByRole('button', { name: 'Weigh' }).click();
  await expect(card(page).getByRole('article')).toHaveCount(2);
  await expect(card(page).getByRole('article').first().locator('[data-board=shogi]')).toBeVisible();
  await expect(card(page).getByRole('button', { name: 'Weigh' })).toBeVisible({ timeout: 60_000 });
  const calculation = page.getByRole('region', { name: 'My calculation' });
  await calculation.getByRole('textbox').fill('8h2b+ 4a3b 2b1a');
  await calculation.getByRole('textbox').press('Enter');
  await expect(calculation.getByText(/need not play/)).toBeVisible({ timeout: 60_000 });
  expect(errors).toEqual([]);
});

test('where the engine does not start, what asked for it says so and can be asked again', async ({
  page,
}) => {
  await page.route(/\/engine\/.*\.wasm$/, (route) => route.abort());
  await takeIn(page, 'failing.pgn', CHESS);
  await page.keyboard.press('Home');
  await pin(page, 'e4');
  await pin(page, 'd4');
  const weigh = card(page).getByRole('button', { name: 'Weigh' });
  await weigh.click();
  await expect(card(page).getByRole('alert')).toContainText('The engine failed. Try again');
  const calculation = page.getByRole('region', { name: 'My calculation' });
  await calculation.getByRole('textbox').fill('e4 e5 Nf3');
  await calculation.getByRole('button', { name: 'Go over it' }).click();
  await expect(calculation.getByRole('alert')).toContainText('The engine failed. Try again');
  await page.unroute(/\/engine\/.*\.wasm$/);
  await weigh.click();
  await expect(card(page).getByRole('article')).toHaveCount(2);
  await expect(card(page).getByRole('alert')).toHaveCount(0);
});
