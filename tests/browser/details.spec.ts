import { expect, test, type Page } from '@playwright/test';
import { kif, open, pgn, sweep, takeIn, watchForErrors } from './support';

const CHESS = pgn('Details', `1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 1-0`);
const sheetOf = (page: Page) => page.getByRole('region', { name: 'Moves of the game' });
const saved = (page: Page) =>
  expect(page.getByRole('status').getByText('saved', { exact: true })).toBeVisible();
const paste = (page: Page, text: string) =>
  page.evaluate((pasted) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', pasted);
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true }));
  }, text);

test('names, date, result and one’s own side of a game are put right', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'details.pgn', CHESS);
  const card = page.getByRole('region', { name: 'Game', exact: true });
  // once the cards above have what they show, and move it no more
  const base = page.getByRole('region', { name: 'Base', exact: true });
  await base.getByRole('button', { name: 'Games with e4' }).waitFor();
  await card.getByRole('button', { name: 'Edit details' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Black').fill('Jonas Brandt-Reuter');
  await dialog.getByLabel('Date').fill('2026-02');
  await dialog.getByLabel('Result').selectOption('1/2-1/2');
  await dialog.getByLabel('My side').selectOption({ label: 'Black' });
  await dialog.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.locator('.player-line').filter({ hasText: 'Brandt-Reuter' })).toContainText(
    'you',
  );
  await expect(card).toContainText('½–½');
  await saved(page);
  await page.reload();
  await expect(card).toContainText('2026-02');
  await expect(page.locator('.player-line').filter({ hasText: 'Brandt-Reuter' })).toContainText(
    'you',
  );
  await page.keyboard.press('Control+z');
  expect(errors).toEqual([]);
});

test('what is pasted with variations and words goes into the sheet', async ({ page }) => {
  await takeIn(page, 'pasted.pgn', CHESS);
  const game = page.url();
  await page.keyboard.press('ArrowRight');
  await paste(page, '1... c5 {a Sicilian} 2. Nf3 (2. c3 d5) 2... d6 $1');
  await expect(sheetOf(page)).toContainText('a Sicilian');
  await expect(sheetOf(page)).toContainText('c3');
  expect(new URL(page.url()).pathname).toBe(new URL(game).pathname);
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(sheetOf(page)).not.toContainText('a Sicilian');
});

test('a sweep has a key, and its findings stay while a new one is waited for', async ({ page }) => {
  await takeIn(page, 'key.pgn', pgn('Key', '1. e4 e5 2. Qh5 Nc6 3. Bc4 Nf6 4. Qxf7# 1-0'));
  const effort = page.getByLabel(/How long at a position/);
  await effort.selectOption('average nodes 100000');
  await page.keyboard.press('Home');
  await page.locator('.sheet-scroll').focus();
  await page.keyboard.press('s');
  await expect(page.getByRole('button', { name: 'Go over it again' })).toBeVisible({
    timeout: 60_000,
  });
  const blunder = sheetOf(page)
    .getByText(/chance points/)
    .first();
  await expect(blunder).toBeVisible();
  // what was chosen last is meant the next time
  await page.reload();
  await expect(effort).toHaveValue('average nodes 100000');
  // a much longer one: nothing goes away when it is asked for, nor when it is called off
  await effort.selectOption('average nodes 10000000');
  await page.locator('.sheet-scroll').focus();
  await page.keyboard.press('s');
  await expect(page.locator('.sweep-progress')).toBeVisible();
  await expect(blunder).toBeVisible();
  await page.waitForTimeout(1000);
  await expect(blunder).toBeVisible();
  await page.keyboard.press('s');
  await expect(page.getByRole('region', { name: 'Review' })).toContainText('Stopped');
  await expect(blunder).toBeVisible();
});

test('a shogi promotion declined is no other move, and typed without a word it is asked about', async ({
  page,
}) => {
  const shogi = kif(`   1 ７六歩(77)\n   2 ３四歩(33)\n`);
  await takeIn(page, 'which.kif', shogi);
  await page.keyboard.press('End');
  await page.keyboard.press('/');
  await page.keyboard.type('Bx2b');
  await page.keyboard.press('Enter');
  await expect(page.locator('.move-field').getByRole('alert').first()).toContainText(
    'Bx2b+, Bx2b=',
  );
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Bx2b=');
  await page.keyboard.press('Enter');
  await expect(page.locator('.current').first()).toContainText('Bx2b=');
});

test('notation and results follow the language unless chosen otherwise', async ({ page }) => {
  await takeIn(
    page,
    'language.kif',
    kif(`   1 ７六歩(77)\n   2 ３四歩(33)\n   3 ２二角成(88)\n   4 投了\n`),
  );
  await expect(page.locator('.move').first()).toContainText('P-7f');
  await expect(page.locator('.sheet-scroll')).toContainText('1–0');
  await page.keyboard.press('End');
  await expect(page.locator('.player-line .material')).toHaveText('ahead by 2B');
  await page.getByRole('button', { name: '日本語で読む' }).click();
  await expect(page.locator('.player-line .material')).toHaveText('駒得 角2');
  await expect(page.locator('.move').first()).toContainText('７六歩');
  await expect(page.locator('.sheet-scroll')).toContainText('先手勝ち');
  await page.getByRole('button', { name: '表示' }).click();
  await page.getByRole('button', { name: /欧文/ }).click();
  await expect(page.locator('.move').first()).toContainText('P-7f');
});

test('the sheet and each line are one stop for the tab key, with arrow keys inside', async ({
  page,
}) => {
  await takeIn(page, 'stops.pgn', CHESS);
  await page.keyboard.press('ArrowRight');
  await page.locator('.move.current').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('.move.current')).toBeFocused();
  await expect(page.locator('.move.current')).toContainText('Nf3');
  const inSheet = (): Promise<boolean> =>
    page.evaluate(() => document.activeElement?.closest('.sheet-scroll') !== null);
  await page.keyboard.press('Tab');
  expect(await inSheet()).toBe(false);
  await page.keyboard.press('Shift+Tab');
  await expect(page.locator('.move.current')).toBeFocused();

  const lines = page.getByRole('region', { name: 'Lines' });
  await lines.getByRole('button', { name: 'Think' }).click();
  const rows = lines.locator('tbody tr');
  await expect(lines).toContainText(/depth 1\d/);
  // a line that the engine moves up or down takes the focus along, so the row is found by it
  await rows.first().locator('.inline-move').first().focus();
  const row = rows.filter({ has: page.locator(':focus') });
  await page.keyboard.press('ArrowRight');
  await expect(row.locator('.inline-move').nth(1)).toBeFocused();
  await page.keyboard.press('End');
  await expect(row.getByRole('button', { name: 'Put the line into the sheet' })).toBeFocused();
  await page.keyboard.press('Home');
  await expect(row.locator('.inline-move').first()).toBeFocused();
  await rows.first().locator('.inline-move').first().focus();
  const left = (await page.locator(':focus').textContent())!;
  await page.keyboard.press('Tab');
  const firstMove = rows.locator('.inline-move:first-of-type:focus');
  await expect(firstMove).toHaveCount(1);
  await expect(firstMove).not.toHaveText(left);
});

test('on a phone board and lines are seen together, the course under the board', async ({
  page,
}) => {
  await takeIn(page, 'phone.pgn', CHESS);
  await page.setViewportSize({ width: 390, height: 844 });
  const lines = page.getByRole('region', { name: 'Lines' });
  await lines.locator('.card-title').click();
  await lines.getByRole('button', { name: 'Think' }).click();
  await expect(page.locator('.lines-table tbody tr').nth(1)).toBeVisible();
  await page.evaluate(() => window.scrollTo(0, 0));
  const box = async (selector: string) => (await page.locator(selector).first().boundingBox())!;
  const board = await box('.board-side .board');
  const course = await box('.course');
  const line = await box('.lines-table tbody tr');
  const sheet = await box('.sheet-side');
  expect(course.y).toBeGreaterThan(board.y + board.height - 1);
  expect(line.y).toBeGreaterThan(course.y);
  expect(line.y + line.height).toBeLessThan(844);
  expect(sheet.y).toBeGreaterThan(line.y);
});

test('names of any length widen neither the list nor a phone page', async ({ page }) => {
  const long = 'Wolkenkuckucksheim'.repeat(5);
  const spaced = 'Maria Theresia von und zu Hohenlohe '.repeat(2);
  const text = pgn('Long names', '1. e4 *')
    .replace('Mirela Tanase', long)
    .replace('Jonas Brandt', spaced)
    .replace('Long names', 'E'.repeat(180));
  await takeIn(page, 'long.pgn', text);
  const wide = (): Promise<number> =>
    page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(await wide()).toBeLessThanOrEqual(0);
  for (const size of [
    { width: 1280, height: 800 },
    { width: 390, height: 844 },
  ]) {
    await page.setViewportSize(size);
    await page.reload();
    await page.locator('.move').first().waitFor();
    expect(await wide()).toBeLessThanOrEqual(0);
    await open(page, `/?text=${long.slice(0, 30)}`);
    await page.locator('.games-table tbody tr').first().waitFor();
    expect(await wide()).toBeLessThanOrEqual(0);
    const table = page.locator('.games-scroll');
    expect(await table.evaluate((box) => box.scrollWidth - box.clientWidth)).toBeLessThanOrEqual(0);
    await page.goBack();
  }
});

test('repetition, the fifty-move count and byoyomi are told when they come near', async ({
  page,
}) => {
  const dance = 'Nf3 Nf6 Ng1 Ng8 Nf3 Nf6 Ng1 Ng8';
  await takeIn(page, 'dance.pgn', pgn('Dance', `${dance} *`));
  await page.keyboard.press('End');
  await expect(page.getByText('This position has come up 3 times')).toBeVisible();
  const quiet = `[Event "Quiet"]\n[White "Mirela Tanase"]\n[SetUp "1"]\n[FEN "8/8/8/4k3/8/8/4K3/R7 w - - 70 60"]\n\nRa2 Kd5 *\n`;
  await takeIn(page, 'quiet.pgn', quiet);
  await page.keyboard.press('End');
  await expect(page.getByText('36 of 50 moves without capture or pawn move')).toBeVisible();

  const timed = kif(
    `   1 ７六歩(77)   ( 1:10/00:01:10)\n   2 ３四歩(33)   ( 0:05/00:00:05)\n`,
  ).replace('先手：', '持ち時間：1分+30秒\n先手：');
  await takeIn(page, 'timed.kif', timed);
  await page.keyboard.press('ArrowRight');
  await expect(
    page.locator('.player-line .clock').filter({ hasText: '0:20 of 0:30' }),
  ).toBeVisible();
});

test('two tabs that write in different places need not be asked', async ({ page, context }) => {
  await takeIn(page, 'tabs.pgn', CHESS);
  const other = await context.newPage();
  await open(other, new URL(page.url()).pathname);
  // one writes while the other can not be heard
  await page.route('**/api/games/*/steps**', (route) => route.abort());
  await page.keyboard.press('End');
  await page.keyboard.press('!');
  await other.keyboard.press('ArrowRight');
  await other.keyboard.press('?');
  await saved(other);
  await page.unroute('**/api/games/*/steps**');
  await expect(page.locator('.move').first().locator('.sign')).toHaveText('?', { timeout: 30_000 });
  await saved(page);
  await expect(page.locator('.move').last().locator('.sign')).toHaveText('!');
  await expect(other.locator('.move').last().locator('.sign')).toHaveText('!');
  // and one's own can still be taken back
  await page.keyboard.press('Control+z');
  await expect(page.locator('.move').last().locator('.sign')).toHaveCount(0);
  await expect(page.locator('.move').first().locator('.sign')).toHaveText('?');
  await saved(page);
});

test('the list says how accurate a game was', async ({ page }) => {
  await takeIn(
    page,
    'accuracy.pgn',
    pgn(`Accuracy ${Date.now()}`, '1. e4 e5 2. Qh5 Nc6 3. Bc4 Nf6 4. Qxf7# 1-0'),
  );
  const game = new URL(page.url()).pathname;
  await sweep(page);
  await open(page, '/?text=accuracy');
  const row = page.locator('tbody tr').filter({ has: page.locator(`a[href="${game}"]`) });
  const columns = await page.getByRole('columnheader').allTextContents();
  await expect(row.getByRole('cell').nth(columns.indexOf('Accuracy'))).toHaveText(/^\d+$/);
});
