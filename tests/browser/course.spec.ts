import { expect, test, type Page } from '@playwright/test';
import { boardWords, sweep, takeIn, watchForErrors } from './support';

const CHESS = `[Event "Course"]
[White "Mirela Tanase"]
[Black "Jonas Brandt"]
[Result "0-1"]
[TimeControl "900+10"]

1. e4 {[%clk 0:15:00]} e5 {[%clk 0:14:50]} 2. Nf3 {[%clk 0:14:40]} Nc6 {[%clk 0:14:40]}
3. Bc4 {[%clk 0:14:20] the Italian} Nf6 {[%clk 0:14:10]} 4. Ng5 {[%clk 0:14:00]} d5 {[%clk 0:14:00]}
5. exd5 {[%clk 0:13:50]} Nxd5 {[%clk 0:13:30]} 6. Qg4 $4 {[%clk 0:13:58]} Bxg4 {[%clk 0:13:00]} 0-1
`;
const SHOGI = `手合割：平手
持ち時間：1分+30秒
先手：Mirela Tanase
後手：Aino Lehtisaari
   1 ７六歩(77)   ( 0:16/00:00:16)
   2 ３四歩(33)   ( 0:09/00:00:09)
   3 ２六歩(27)   ( 0:30/00:00:46)
   4 ４二銀(31)   ( 0:03/00:00:12)
   5 ２二角成(88)   ( 0:29/00:01:15)
   6 ８四歩(83)   ( 0:38/00:00:50)
`;

async function looks(page: Page, plies: number): Promise<void> {
  const chart = page.getByTestId('course');
  await sweep(page);
  await expect(chart.locator('canvas')).toBeVisible();
  const box = (await chart.boundingBox())!;
  const x = (ply: number): number => box.x + 22 + ((box.width - 44) * ply) / plies;

  // over the chart, the position is shown and nothing moves
  const words = (await boardWords(page).textContent())!;
  await page.mouse.move(x(3), box.y + 40);
  await expect(page.getByTestId('course-hover').locator('[data-board]')).toBeVisible();
  await expect(boardWords(page)).toHaveText(words);

  // a drag selects a stretch and says what each side gave away in it
  await page.mouse.move(x(0), box.y + 40);
  await page.mouse.down();
  await page.mouse.move(x(plies), box.y + 40, { steps: 6 });
  await page.mouse.up();
  const summary = page.locator('.course-summary');
  await expect(summary).toContainText(/White loses \d+\.\d a move \(\d+\)/);
  await expect(summary).toContainText(/Black loses/);
  await summary.getByRole('button', { name: 'Clear' }).click();
  await expect(summary).toHaveCount(0);

  // a click goes there
  await page.mouse.click(x(1), box.y + 40);
  await expect(page.locator('.move.current')).toHaveAttribute('data-ply', '1');

  // and all of it as a table
  await page.getByRole('button', { name: 'As a table' }).focus();
  await page.keyboard.press('Enter');
  const table = page.getByRole('dialog');
  await expect(table.locator('tbody tr')).toHaveCount(plies + 1);
  await expect(table.locator('tbody tr').nth(2)).toContainText(/\d+ %/);
  await expect(table.locator('tbody tr').nth(2)).toContainText('opening');
  await table.locator('tbody tr').nth(2).getByRole('button').click();
  await expect(page.locator('.move.current')).toHaveAttribute('data-ply', '2');
}

test('the course of a chess game: looked at, measured, read as a table', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'course.pgn', CHESS);
  await looks(page, 12);
  // the blunder took two seconds: said at the move and for the game
  await expect(page.getByText('White played a turning point in under 10 seconds.')).toBeVisible();
  await expect(page.locator('.under').filter({ hasText: '2 seconds' })).toBeVisible();
  // it opens just before its move
  await page.keyboard.press('Home');
  await page.keyboard.press('t');
  await expect(page.locator('.move.current')).toHaveText(/Nxd5/);
  // moments with something written
  await page.keyboard.press('Home');
  await page.keyboard.press('n');
  await expect(page.locator('.move.current')).toHaveText(/Bc4/);
  await page.keyboard.press('n');
  await expect(page.locator('.move.current')).toHaveText(/Qg4/);
  await page.keyboard.press('Shift+N');
  await expect(page.locator('.move.current')).toHaveText(/Bc4/);
  expect(errors).toEqual([]);
});

test('the course of a shogi game', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'course.kifu', SHOGI);
  await looks(page, 6);
  // the bishop was left unprotected after three seconds
  await expect(page.getByText('White played a turning point in under 10 seconds.')).toBeVisible();
  await expect(page.locator('.under').filter({ hasText: '3 seconds' })).toBeVisible();
  // what is left of the minute, and after it the 30 seconds a move
  const left = page.locator('.board-side .clock').nth(1);
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(left).toHaveText('Time left 0:14');
  await page.keyboard.press('ArrowRight');
  await expect(left).toHaveText('Time left 0:15 of 0:30');
  expect(errors).toEqual([]);
});
