import { expect, test, type Page } from '@playwright/test';
import { kif, open, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn('Lines', `1. e4 e5 2. Nf3 Nc6 3. Bc4 Nf6 4. Ng5 d5 5. exd5 Nxd5 6. a3 0-1`);
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
   3 ２二角成(88)
   4 同　銀(31)
   5 ９六歩(97)
`);

const card = (page: Page) => page.getByRole('region', { name: 'Lines' });
const depth = async (page: Page): Promise<number> =>
  Number(/depth (\d+)/.exec((await card(page).locator('.state').textContent()) ?? '')?.[1] ?? 0);

test('live lines: off until asked for, for what is on the board, in as many lines as wanted', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'lines.pgn', CHESS);
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowLeft');
  await expect(card(page).locator('tbody tr')).toHaveCount(0);
  await card(page).getByRole('button', { name: 'Think' }).click();
  const rows = card(page).locator('tbody tr');
  await expect(rows.nth(2)).toBeVisible();
  await expect.poll(() => depth(page)).toBeGreaterThan(8);
  await expect(card(page).locator('.state')).toContainText("White's view");

  // the game's own move is priced though it is outside; how many would do is said
  await expect(card(page).getByText(/Played: outside the best 3, costs \d+/)).toBeVisible();
  await expect(card(page).locator('tr.played')).toContainText('a3');
  await expect(card(page).getByText(/keeps? the result|Only move/)).toBeVisible();
  await expect(card(page).getByRole('img', { name: /Chance by depth/ })).toBeVisible();

  // more lines while it runs
  await card(page).getByLabel('Number of lines').selectOption('5');
  await expect(rows.nth(4)).toBeVisible();

  // a look at the end of a line leaves the sheet alone
  const sheet = page.getByRole('region', { name: 'Moves of the game' });
  const before = await sheet.textContent();
  await rows.first().locator('.inline-move').nth(2).hover();
  await expect(page.getByTestId('line-preview').locator('[data-board=chess]')).toBeVisible();
  await page.mouse.move(5, 5);
  await expect(page.getByTestId('line-preview')).toHaveCount(0);
  expect(await sheet.textContent()).toBe(before);

  // a click puts the line in up to there; the plus puts in all of it
  const second = rows.first().locator('.inline-move').nth(1);
  // under the pointer the lines hold still, so that what is read is what is clicked
  await rows.first().hover();
  await expect(card(page).locator('.state')).toContainText('held while you point');
  const name = (await second.textContent())!;
  await second.click();
  await expect(sheet.locator('.inline-move.current')).toHaveText(name);
  await expect(card(page).locator('.state')).toContainText("White's view");
  await expect(rows.first()).toBeVisible();
  await rows.first().getByRole('button', { name: 'Put the line into the sheet' }).click();
  await expect(sheet.locator('.inline-move.current')).toHaveText(name);
  await page.keyboard.press('End');
  await expect(sheet.locator('.inline-move.current')).not.toHaveText(name);

  // what was known comes back at once when the position does
  await page.keyboard.press('Home');
  await expect.poll(() => depth(page)).toBeGreaterThan(10);
  const known = await depth(page);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowLeft');
  await expect.poll(() => depth(page)).toBeGreaterThanOrEqual(known);

  // remembered on the next visit, and stopped
  await expect(page.getByRole('status').getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await page.locator('html[data-bs-theme]').waitFor();
  await card(page).getByRole('button', { name: 'Stop' }).click();
  await expect(card(page).getByRole('button', { name: 'Think' })).toBeVisible();
  expect(errors).toEqual([]);
});

test('lines come from another engine when the page has lost its own', async ({ page }) => {
  await takeIn(page, 'lost.pgn', CHESS);
  const think = card(page).getByRole('button', { name: 'Think' });
  await think.click();
  await expect.poll(() => depth(page)).toBeGreaterThan(5);
  await card(page).getByRole('button', { name: 'Stop' }).click();
  const lost = page.workers();
  expect(lost.length).toBeGreaterThan(0);
  for (const worker of lost)
    await worker.evaluate(() => {
      setTimeout(() => {
        throw new Error('lost');
      });
    });
  await page.keyboard.press('ArrowRight');
  await think.click();
  await expect.poll(() => depth(page)).toBeGreaterThan(5);
  await expect(card(page).getByRole('alert')).toHaveCount(0);
  for (const worker of lost) expect(page.workers()).not.toContain(worker);
});

test('the threat: what the other side would do if it were to move', async ({ page }) => {
  await takeIn(page, 'threat.pgn', CHESS);
  await page.keyboard.press('End');
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowLeft');
  await card(page).getByRole('button', { name: 'Think' }).click();
  await card(page).getByRole('button', { name: 'Threat' }).click();
  await expect(page.getByTestId('threat')).toContainText('If White were to move now');
  await expect(page.getByTestId('threat').locator('.inline-move').first()).toBeVisible();
  await expect(page.locator('[data-board=chess] .arrow').first()).toBeVisible();
});

test('live lines for shogi, and a threatmate', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'lines.kifu', SHOGI);
  await page.keyboard.press('End');
  await card(page).getByRole('button', { name: 'Think' }).click();
  await expect(card(page).locator('tbody tr').nth(2)).toBeVisible();
  await expect(card(page).locator('.state')).toContainText("White's view");
  // Black threatens a gold on the head of the king
  await open(page, '/');
  await takeIn(page, 'threat.sfen', 'sfen 4k4/9/4P4/9/9/9/9/9/4K4 w G 1\n');
  await card(page).getByRole('button', { name: 'Threat' }).click();
  await expect(page.getByTestId('threat')).toContainText('threatmate');
  expect(errors).toEqual([]);
});

test.describe('with more cores', () => {
  const think = async (page: Page, name: string, text: string): Promise<string> => {
    await page.addInitScript(() =>
      Object.defineProperty(navigator, 'hardwareConcurrency', { value: 4 }),
    );
    await takeIn(page, name, text);
    const asked = page.waitForRequest(/\/engine\/(chess|shogi)(\.shared)?\.wasm$/);
    await card(page).getByRole('button', { name: 'Think' }).click();
    await expect.poll(() => depth(page)).toBeGreaterThan(8);
    return (await asked).url().split('/').at(-1)!;
  };

  test('several threads of the page search together, and stop together', async ({ page }) => {
    const errors = watchForErrors(page);
    // in shogi one more worker looks for mates
    for (const [name, text, kind, workers] of [
      ['threads.pgn', CHESS, 'chess', 3],
      ['threads.kifu', SHOGI, 'shogi', 4],
    ] as const) {
      expect(await think(page, name, text)).toBe(`${kind}.shared.wasm`);
      expect(page.workers()).toHaveLength(workers);
      await page.keyboard.press('ArrowRight');
      await expect.poll(() => depth(page)).toBeGreaterThan(8);
      await card(page).getByRole('button', { name: 'Stop' }).click();
      const state = await card(page).textContent();
      await page.waitForTimeout(500);
      expect(await card(page).textContent()).toBe(state);
    }
    expect(errors).toEqual([]);
  });

  test('one thread searches where the page may share no memory', async ({ page }) => {
    await page.addInitScript(() =>
      Object.defineProperty(window, 'crossOriginIsolated', { value: false }),
    );
    expect(await think(page, 'alone.pgn', CHESS)).toBe('chess.wasm');
    expect(page.workers()).toHaveLength(1);
  });
});
