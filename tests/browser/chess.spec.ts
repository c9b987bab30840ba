import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import {
  boardWords,
  contentsOf,
  dropFile,
  open,
  nodeInAddress,
  sweep,
  watchForErrors,
} from './support';

const PGN = `[Event "Harbour League test"]
[Site "Velden"]
[Date "2026.03.14"]
[Round "4"]
[White "Mirela Tanase"]
[Black "Jonas <b>Brandt</b>"]
[Result "0-1"]
[WhiteElo "1836"]
[BlackElo "1874"]
[TimeControl "900+10"]
[Remark "<img src=x onerror=alert(1)>"]

1. e4 {[%clk 0:15:05]} e5 {[%clk 0:15:02]} 2. Nf3 {[%clk 0:15:10]} Nc6 {[%clk 0:15:05]}
3. Bc4 {[%clk 0:15:12] <script>alert(2)</script> solid} Nf6 {[%clk 0:14:51]}
4. Ng5 (4. d3 Be7 5. O-O) 4... d5 5. exd5 Nxd5 6. Nxf7 Kxf7 7. Qf3+ Ke6 8. Nc3 Ncb4
9. a3 Nxc2+ 10. Kd1 Nxa1 11. Qxd5+ Ke7 12. Nb5 {[%csl Gd4] [%cal Re2e4]} Qd6 13. Qf3 b6 0-1
`;

test('a PGN file, from the drop to the re-imported export', async ({ page }) => {
  const errors = watchForErrors(page);
  await open(page, '/');
  await dropFile(page, 'last-night.pgn', PGN);
  await page.waitForURL(/\/games\/\d+$/);
  const sheet = page.getByRole('region', { name: 'Moves of the game' });
  await expect(sheet.getByRole('button', { name: /^e4/ })).toBeVisible();
  await expect(page.getByText('<script>alert(2)</script> solid')).toBeVisible();

  // stepping: keys, buttons, wheel, the sheet, and the address keeps up
  const board = page.locator('.board-side [data-board=chess]');
  const words = boardWords(page);
  const start = await words.textContent();
  await page.keyboard.press('ArrowRight');
  await expect(words).toHaveText(/Black to move\. White: .*pawn [a-h2 ]*e4\./);
  await page.getByRole('button', { name: /One move on/ }).click();
  await expect(words).toHaveText(/White to move\. .*Black: .*pawn e5 /);
  await board.hover();
  await page.mouse.wheel(0, 100);
  await expect(words).toHaveText(/Black to move\. White: .*knight b1 f3/);
  await page.keyboard.press('Home');
  await expect(words).toHaveText(start!);
  await expect.poll(() => nodeInAddress(page)).toBeNull();
  await page.keyboard.press('End');
  await expect(sheet.locator('.move.current')).toHaveText(/b6/);
  await expect.poll(() => nodeInAddress(page)).not.toBeNull();
  const last = nodeInAddress(page);
  await sheet.getByRole('button', { name: 'd3', exact: true }).click();
  await expect(words).toHaveText(/bishop c1 c4, .*pawn [a-h2 ]*d3 e4/);
  await expect.poll(() => nodeInAddress(page)).not.toBe(last);
  await page.reload();
  await page.locator('html[data-bs-theme]').waitFor();
  await expect(sheet.locator('.inline-move.current')).toHaveText('d3');
  await expect(page.getByText('0:05').first()).toBeVisible();

  // marks, material, check
  await sheet.getByRole('button', { name: /^Nb5/ }).click();
  await expect(board.locator('.ring')).toHaveCount(1);
  await expect(board.locator('.arrow')).toHaveCount(1);
  await expect(page.getByText('ahead by').first()).toBeVisible();
  await sheet.getByRole('button', { name: /^Qxd5\+/ }).click();
  await expect(board.locator('.check')).toHaveCount(1);

  // the sweep, live and without a reload
  await sweep(page);
  await expect(page.getByTestId('course').locator('canvas')).toBeVisible();
  const flagged = sheet.locator('.move', { has: page.locator('.sign.blunder, .sign.mistake') });
  await expect(flagged.first()).toBeVisible();
  await page.keyboard.press('Home');
  // it opens just before its move, so that one can think first
  await page.keyboard.press('t');
  await page.keyboard.press('ArrowRight');
  await expect(sheet.locator('.move.current .sign')).toHaveText(/\?/);
  const turning = await sheet.locator('.move.current').getAttribute('data-ply');

  // the chart goes along, and a click on it moves the board
  const line = page.getByTestId('hairline');
  const before = await line.evaluate((element) => element.style.left);
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => line.evaluate((element) => element.style.left)).not.toBe(before);
  const box = (await page.getByTestId('course').boundingBox())!;
  await page.mouse.click(box.x + 24, box.y + 40);
  await expect(words).toHaveText(start!);

  // own errors: White's only
  await page.keyboard.press('m');
  expect(Number(await sheet.locator('.move.current').getAttribute('data-ply')) % 2).toBe(1);

  // the better line, stepped through on the board and left again
  await page.keyboard.press('Home');
  await page.keyboard.press('t');
  await page.keyboard.press('ArrowRight');
  await expect(sheet.locator('.move.current')).toHaveAttribute('data-ply', turning!);
  const finding = sheet.locator('.under', { hasText: 'chance points' }).first();
  await expect(finding).toContainText('better');
  const shown = await words.textContent();
  await finding.locator('.inline-move').first().click();
  await expect(page.getByText(/In a line, move 1 of/)).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/In a line, move 2 of/)).toBeVisible();
  await expect(words).not.toHaveText(shown!);
  // another language changes the words, not the place
  await page.getByRole('button', { name: '日本語で読む' }).click();
  await expect(page.getByText(/2 手目/)).toBeVisible();
  await page.getByRole('button', { name: 'Read this in English' }).click();
  await expect(page.getByText(/In a line, move 2 of/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText(/In a line/)).toHaveCount(0);

  // export with the findings, and in again
  await page.getByRole('button', { name: 'Export' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'PGN', exact: true }).click(),
  ]);
  const exported = await contentsOf(download);
  expect(exported).toMatch(/\[%eval -?[\d.#]/);
  expect(exported).toMatch(/\$[246]\b/);
  expect(exported).toContain('chance points');
  expect(exported).toContain('[Remark "<img src=x onerror=alert(1)>"]');
  for (const row of exported.split('\n')) expect(row.length).toBeLessThan(80);
  await open(page, '/');
  await dropFile(page, 'export.pgn', exported);
  const result = page.getByTestId('import-result');
  await expect(result).toContainText('1 was here already');
  await result.getByRole('button', { name: 'Keep them as copies too' }).click();
  await page.waitForURL(/\/games\/\d+$/);
  await expect(sheet.locator('.sign').first()).toBeVisible();
  await expect(sheet.getByText(/Better: the move played costs/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Export' }).click();
  const [again] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'PGN', exact: true }).click(),
  ]);
  expect(await contentsOf(again)).toBe(exported);
  expect(errors).toEqual([]);
});

test('the engine in the page thinks about the position shown, and about no other', async ({
  page,
}) => {
  await open(page, '/');
  await dropFile(
    page,
    'think.pgn',
    '[Event "think"]\n[Round "1"]\n\n1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 *\n',
  );
  await page.waitForURL(/\/games\/\d+$/);
  const card = page.getByRole('region', { name: 'Lines' });
  await card.getByRole('button', { name: 'Think' }).click();
  await expect(card.getByText(/depth [4-9]|depth 1\d/)).toBeVisible();
  await expect(card.getByText("White's view")).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(card.getByText("Black's view")).toBeVisible();
  await expect(card.locator('.lines-table tbody tr')).toHaveCount(3);
  await expect(card.locator('td.line').first()).toContainText('1…');
  await card.getByRole('button', { name: 'Stop' }).click();
  await expect(card.getByText(/M\/s/)).toHaveCount(0);
});

test('bad files say what is wrong and where, and the good games stay', async ({ page }) => {
  const errors = watchForErrors(page);
  await open(page, '/');
  await dropFile(
    page,
    'mixed.pgn',
    '[Event "good"]\n[Round "b1"]\n\n1. b4 *\n\n[Event "<script>alert(3)</script>"]\n\n1. e4 e5 2. Ke3 *\n',
  );
  const result = page.getByTestId('import-result');
  await expect(result).toContainText('1 new game. 1 could not be read:');
  await expect(result).toContainText('Line 8, column 13 (game 2)');
  await expect(result).toContainText('2. Ke3 is not legal in');
  await expect(result).toContainText('Legal nearby: Ke2');
  await dropFile(page, 'letter.pgn', 'Dear Mirela, it was a good game.');
  await expect(result.first()).toContainText('no move');
  await page.getByRole('button', { name: 'Paste a game' }).click();
  await page.getByRole('textbox', { name: /A game as text/ }).fill('1. d4 d5 2. c4 dxc4 *');
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.waitForURL(/\/games\/\d+$/);
  await expect(page.getByRole('button', { name: /^dxc4/ })).toBeVisible();
  expect(errors).toEqual([]);
});

test('a sweep can be stopped, and a game deleted', async ({ page }) => {
  await open(page, '/');
  await dropFile(page, 'stop.pgn', PGN.replace('2026.03.14', '2026.03.15'));
  await page.waitForURL(/\/games\/\d+$/);
  await page.getByLabel(/How long at a position/).selectOption('average nodes 10000000');
  await page.getByRole('button', { name: 'Go over this game' }).click();
  await page.locator('.sweep-progress').getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('Stopped; what was found stays.')).toBeVisible();
  const address = page.url();
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click();
  await page.waitForURL(/\/\?gone=/);
  const list = page.url();
  await page.goto(address);
  await expect(page.getByRole('heading', { name: 'Nothing here' })).toBeVisible();
  // it can be brought back
  await open(page, list);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('1 game is back.')).toBeVisible();
  await expect(page).not.toHaveURL(/gone=/);
  await page.goto(address);
  await expect(page.getByText('Stopped; what was found stays.')).toBeVisible();
});

test('a game is entered by hand, on the board and by typing', async ({ page }) => {
  await open(page, '/games/new');
  const field = page.getByRole('textbox', { name: 'Next move' });
  await field.fill('e4 0:12');
  await field.press('Enter');
  await page.locator('[data-square="52"]').click();
  await page.locator('[data-square="36"]').click();
  await field.fill('Ke3');
  await field.press('Enter');
  await expect(page.getByText("Ke3 can't be played here. Close to it: Ke2")).toBeVisible();
  await field.fill('Nf3 1:05');
  await field.press('Enter');
  await page.getByRole('button', { name: 'Take back' }).click();
  await page.getByRole('button', { name: 'Put forward again' }).click();
  await expect(page.getByTestId('entered-moves')).toHaveText(/1\. e4 0:12 e5 2\. Nf3 1:05/);
  await page.getByRole('textbox', { name: 'White' }).fill('Mirela Tanase');
  await page.getByRole('textbox', { name: 'Black', exact: true }).fill('Ottilie Krampe');
  await page.getByRole('textbox', { name: 'Date' }).fill('2026-13');
  await page.getByRole('textbox', { name: 'Date' }).fill('yesterday');
  await page.getByRole('button', { name: 'Save the game' }).click();
  await expect(page.getByText('or a year or month only')).toBeVisible();
  await page.getByRole('textbox', { name: 'Date' }).fill('2026-05-02');
  await page.getByRole('button', { name: 'Save the game' }).click();
  await page.waitForURL(/\/games\/\d+$/);
  await expect(page.getByRole('button', { name: /^Nf3/ })).toContainText('1:05');
  await expect(page.getByText('2026-05-02', { exact: true })).toBeVisible();
});

/** What is not accessible in the page, or in what `within` selects: in the light, and in the dark, where only colours differ. */
async function inaccessible(page: Page, within = 'html'): Promise<unknown[]> {
  const found: unknown[] = [];
  for (const scheme of ['light', 'dark'] as const) {
    // colours still on their way to the dark are not what is to be judged
    await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
    await expect(page.locator('html')).toHaveAttribute('data-bs-theme', scheme);
    const axe = new AxeBuilder({ page }).include(within);
    if (scheme === 'dark') axe.withRules('color-contrast');
    const { violations } = await axe.analyze();
    found.push(...violations.map(({ id, nodes }) => [scheme, id, nodes[0]?.html]));
  }
  // the next page opens in the light: a change just as a page begins to run can go unheard in Chromium
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
  return found;
}

test('every view is accessible, in the light and in the dark', async ({ page }) => {
  test.slow();
  await open(page, '/');
  const game = (await page.locator('.games-table tbody a').first().getAttribute('href'))!;
  const paths = [
    '/',
    '/games/new',
    '/lessons',
    '/endings',
    '/bases',
    '/preparation',
    '/setup?kind=shogi',
  ];
  for (const path of [...paths, ...['', '/think', '/print', '/question'].map((m) => game + m)]) {
    await open(page, path);
    if (path === game) await expect(page.locator('.base-table')).toBeVisible();
    expect([path, ...(await inaccessible(page))]).toEqual([path]);
  }
});

test('what opens over the Desk is accessible too', async ({ page }) => {
  await open(page, '/');
  const game = await page.locator('.games-table tbody a').first().getAttribute('href');
  await open(page, game!);
  await page.keyboard.press('ArrowRight');
  for (const name of ['Symbol', 'Marks', 'Line', 'keys']) {
    await page.getByRole('button', { name, exact: true }).click();
    const within = '.dropdown-menu.show, .modal-dialog';
    const opened = page.locator(within);
    await expect(opened).toBeVisible();
    expect([name, ...(await inaccessible(page, within))]).toEqual([name]);
    await page.keyboard.press('Escape');
    await expect(opened).toHaveCount(0);
  }
});
