import { expect, test } from '@playwright/test';
import { contentsOf, dropFile, open, sweep, watchForErrors } from './support';

const KIF = `開始日時：2026/03/14 10:00
棋戦：灯籠会リーグ
持ち時間：30分+30秒
手合割：平手
先手：佐倉 結
後手：Mirela Tanase
備考：<script>alert(1)</script>
手数----指手---------消費時間--
   1 ７六歩(77)   ( 0:16/00:00:16)
   2 ３四歩(33)   ( 0:03/00:00:03)
*よくある出だし
   3 ２二角成(88)   ( 1:05/00:01:21)
   4 同　銀(31)   ( 0:02/00:00:05)
   5 ４五角打   ( 0:30/00:01:51)
   6 ５二金(61)   ( 0:08/00:00:13)
   7 ６三角成(45)   ( 0:21/00:02:12)
   8 同　金(52)   ( 1:10/00:01:23)
   9 ３八銀(39)   ( 0:11/00:02:23)
  10 ３三桂(21)   ( 0:14/00:01:37)
  11 ２六歩(27)   ( 0:09/00:02:32)
  12 ４二玉(51)   ( 0:44/00:02:21)
まで12手で後手の勝ち

変化：8手
   8 ３三銀(22)
   9 ５二馬(63)
`;

test('a KIF file, from the drop to the re-imported export', async ({ page }) => {
  const errors = watchForErrors(page);
  await open(page, '/');
  await dropFile(page, 'ladder.kifu', KIF);
  await page.waitForURL(/\/games\/\d+$/);
  const sheet = page.getByRole('region', { name: 'Moves of the game' });
  const board = page.locator('.board-side [data-board=shogi]');
  await expect(sheet.getByRole('button', { name: /^P-7f/ })).toContainText('0:16');
  await expect(sheet.getByText('よくある出だし')).toBeVisible();

  // Mirela plays White, so the board is turned; hands, drops and promotions are shown
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(board.locator('[data-hand="0"] .shogi-piece')).toHaveCount(1);
  await expect(board.locator('.shogi-piece.promoted')).toHaveText('馬');
  await page.keyboard.press('f');

  // kanji or letters, western or Japanese
  await page.getByRole('button', { name: 'Show' }).click();
  await page.getByRole('button', { name: /Letter pieces/ }).click();
  await expect(board.locator('.shogi-piece.promoted')).toHaveText('+B');
  await page.getByRole('button', { name: 'Show' }).click();
  await page.getByRole('button', { name: /Japanese notation/ }).click();
  await expect(sheet.getByRole('button', { name: /☗２二角成/ })).toBeVisible();
  await expect(sheet.getByRole('button', { name: /☖同\s*銀/ })).toBeVisible();
  await page.reload();
  await page.locator('html[data-bs-theme]').waitFor();
  await expect(sheet.getByRole('button', { name: /☗２二角成/ })).toBeVisible();

  await sweep(page);
  const flagged = sheet.locator('.move', { has: page.locator('.sign.blunder, .sign.mistake') });
  await expect(flagged.first()).toBeVisible();
  await page.keyboard.press('Home');
  await page.keyboard.press('t');
  await page.keyboard.press('ArrowRight');
  await expect(sheet.locator('.move.current .sign').first()).toBeVisible();
  const finding = sheet.locator('.under', { hasText: 'better' }).first();
  await finding.locator('.inline-move').first().click();
  await expect(page.getByText(/In a line, move 1 of/)).toBeVisible();
  await page.keyboard.press('Escape');

  // CSA says beforehand what it can't hold, and goes out and in again
  await page.getByRole('button', { name: 'Export' }).click();
  const csaLink = page.getByRole('link', { name: /CSA/ });
  await expect(csaLink).toContainText('leaves out: variations');
  const [csa] = await Promise.all([page.waitForEvent('download'), csaLink.click()]);
  const csaText = await contentsOf(csa);
  expect(csaText).toMatch(/^'\*\* -?\d+/m);
  expect(csaText).toContain('+7776FU\nT16');

  await page.getByRole('button', { name: 'Export' }).click();
  const [kif] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'KIF (UTF-8)' }).click(),
  ]);
  const exported = await contentsOf(kif);
  expect(exported).toContain('*[%eval');
  expect(exported).toMatch(/\*\[%nag [246]\]/);
  expect(exported).toContain('変化：8手');
  expect(exported).toContain('備考：<script>alert(1)</script>');

  await open(page, '/');
  await dropFile(page, 'export.kifu', exported);
  const result = page.getByTestId('import-result');
  await expect(result).toContainText('1 was here already');
  await result.getByRole('button', { name: 'Keep them as copies too' }).click();
  await page.waitForURL(/\/games\/\d+$/);
  await expect(sheet.locator('.sign').first()).toBeVisible();
  await page.getByRole('button', { name: 'Export' }).click();
  const [again] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'KIF (UTF-8)' }).click(),
  ]);
  expect(await contentsOf(again)).toBe(exported);
  expect(errors).toEqual([]);
});

test('a handicap game is entered by hand, the upper side first', async ({ page }) => {
  await open(page, '/games/new');
  await page.getByRole('combobox', { name: 'Game' }).selectOption('shogi');
  await page.getByRole('combobox', { name: 'Handicap' }).selectOption({ label: 'two pieces' });
  const field = page.getByRole('textbox', { name: 'Next move' });
  for (const move of ['6a5b 0:30', 'P-7f', 'P3d', 'B-3d']) {
    await field.fill(move);
    await field.press('Enter');
  }
  // the last one is not legal: the bishop can't reach 3d
  await expect(page.getByText(/B-3d can't be played here\./)).toBeVisible();
  await field.fill('7f7e');
  await field.press('Enter');
  await expect(page.getByTestId('entered-moves')).toHaveText(
    /1\. G6a-5b 0:30 2\. P-7f 3\. P-3d 4\. P-7e/,
  );
  await page.getByRole('button', { name: 'Save the game' }).click();
  await page.waitForURL(/\/games\/\d+$/);
  await expect(page.getByText('two pieces', { exact: true })).toBeVisible();
});

test('promotion is asked for where there is a choice', async ({ page }) => {
  await open(page, '/games/new');
  await page.getByRole('combobox', { name: 'Game' }).selectOption('shogi');
  const field = page.getByRole('textbox', { name: 'Next move' });
  for (const move of ['7g7f', '3c3d']) {
    await field.fill(move);
    await field.press('Enter');
  }
  const board = page.locator('[data-board=shogi]');
  await board.locator('[data-square="70"]').click();
  await board.locator('[data-square="10"]').click();
  const choice = page.getByRole('group', { name: 'Which?' });
  await expect(choice.getByRole('button')).toHaveText(['Bx2b+', 'Bx2b=']);
  await choice.getByRole('button', { name: 'Bx2b=' }).click();
  await expect(page.getByTestId('entered-moves')).toContainText('Bx2b=');
  // White takes back and the bishop in hand can be dropped by clicking
  await field.fill('Sx2b');
  await field.press('Enter');
  await board.locator('[data-hand-piece="5"]').click();
  await board.locator('[data-square="31"]').click();
  await expect(page.getByTestId('entered-moves')).toContainText('B*4e');
});

test('moves are typed in Japanese too', async ({ page }) => {
  await open(page, '/games/new');
  await page.getByRole('combobox', { name: 'Game' }).selectOption('shogi');
  const field = page.getByRole('textbox', { name: 'Next move' });
  await expect(field).toHaveAttribute('placeholder', 'Next move, for example P-7f 2:15');
  for (const move of ['７六歩 0:30', '34歩', '22角成', '同　銀', '55歩']) {
    await field.fill(move);
    await field.press('Enter');
  }
  await expect(page.getByTestId('entered-moves')).toHaveText(
    /1\. P-7f 0:30 2\. P-3d 3\. Bx2b\+ 4\. Sx2b/,
  );
  // what is close to it is told as it was written; of squares alone, as the reader reads moves
  await expect(page.getByText("55歩 can't be played here. Close to it: ５五角.")).toBeVisible();
  await field.fill('6i6f');
  await field.press('Enter');
  await expect(page.getByText(/6i6f can't be played here\. Close to it: .*G-/)).toBeVisible();
  await page.getByRole('button', { name: '日本語で読む' }).click();
  const inJapanese = page.getByRole('textbox', { name: '次の手' });
  await inJapanese.fill('6i6f');
  await inJapanese.press('Enter');
  await expect(page.getByText(/6i6f はこの局面では指せません。近い手：.*金/)).toBeVisible();
});
