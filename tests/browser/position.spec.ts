import { expect, test, type Page } from '@playwright/test';
import { boardWords, kif, open, pgn, takeIn, watchForErrors } from './support';

test.use({ permissions: ['clipboard-read', 'clipboard-write'] });

const CHESS = pgn('Position', `1. b3 g5 2. Bb2 f6 3. e4 1-0`);
const SHOGI = kif(`   1 ９六歩(97)
   2 １四歩(13)
   3 ９五歩(96)
`);
const FEN = '4k3/8/8/8/8/8/4P3/4K3 w - - 0 1';

const card = (page: Page) => page.getByRole('region', { name: 'Position', exact: true });
const clipboard = (page: Page): Promise<string> =>
  page.evaluate(() => navigator.clipboard.readText());
async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((value) => navigator.clipboard.writeText(value), text);
  await page.locator('body').press('Control+v');
}

const isUnkeptDesk = ({ pathname }: URL): boolean => pathname === '/desk';

test('a position goes out as text, moves and positions come in, and it is found in other games', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'first.pgn', CHESS);
  await takeIn(page, 'second.pgn', CHESS.replace('3. e4', '3. h4'));
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await card(page).getByRole('button', { name: 'Copy position' }).click();
  await expect(card(page).getByRole('status')).toHaveText('Copied: position');
  expect(await clipboard(page)).toMatch(
    /^rnbqkbnr\/ppppp2p\/5p2\/6p1\/8\/1P6\/PBPPPPPP\/RN1QKBNR w/,
  );
  await card(page).getByRole('button', { name: 'Copy moves' }).click();
  expect(await clipboard(page)).toBe('1. b3 g5 2. Bb2 f6');
  await card(page).getByRole('button', { name: 'Copy diagram' }).click();
  expect(await clipboard(page)).toContain('2  P B P P P P P P');

  await card(page).getByRole('button', { name: 'Where else?' }).click();
  const elsewhere = page.getByTestId('elsewhere');
  await expect(elsewhere).toContainText('then e4');
  const here = new URL(page.url()).pathname;
  await elsewhere.getByRole('link').first().click();
  await page.waitForURL(({ pathname }) => pathname !== here);
  await expect(page.locator('.move.current')).toHaveText(/^f6/);

  // moves that are pasted become a line, a position is opened
  await paste(page, '3. a4 h5');
  await expect(page.locator('.inline-move.current')).toHaveText('h5');
  // a line is copied, and read again
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('button', { name: 'Line', exact: true }).click();
  await page.getByText('Copy the moves from here').click();
  const copied = await clipboard(page);
  expect(copied).toBe('3… h5');
  await paste(page, copied);
  await expect(page.locator('.inline-move.current')).toHaveText('h5');
  // what is neither is said to be wrong, and why
  await paste(page, '4k3/8/8/8/8/8/4P3/8 w - - 0 1');
  await expect(card(page).getByRole('alert')).toContainText('has no king');
  await paste(page, FEN);
  await page.waitForURL(isUnkeptDesk);
  await expect(boardWords(page)).toHaveText(/White: king e1, pawn e2\. Black: king e8\.$/);
  expect(errors).toEqual([]);
});

test('a Desk of a position is stored by the first thing entered, and is the same Desk', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'unkept.pgn', CHESS);
  const stored = async (): Promise<string> => {
    const answer = await page.request.get('/');
    return /(\d+) games/.exec(await answer.text())![1]!;
  };
  const before = Number(await stored());
  await paste(page, FEN);
  await page.waitForURL(isUnkeptDesk);
  const state = page.getByRole('status').getByText('not kept until something is entered');
  await expect(state).toBeVisible();
  await expect(page.getByRole('button', { name: 'Delete' })).toHaveCount(0);
  // an engine may look at it: nothing to keep
  await page.getByRole('button', { name: 'Think', exact: true }).click();
  const lines = page.getByRole('region', { name: 'Lines' });
  await expect(lines.locator('tbody tr').first()).toBeVisible();
  await page.waitForTimeout(600);
  expect(Number(await stored())).toBe(before);

  await page.getByLabel('Next move').fill('e4');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/games\/\d+\?node=/);
  await expect(page.getByRole('status').getByText('saved', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Delete' })).toBeVisible();
  expect(Number(await stored())).toBe(before + 1);
  // what was done before it was stored can be taken back, and what follows goes to the same game
  await page.keyboard.press('Escape');
  await page.locator('.sheet-scroll').focus();
  await page.keyboard.press('Control+z');
  await expect(page.locator('.move')).toHaveCount(0);
  await page.getByLabel('Next move').fill('e3');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').getByText('saved', { exact: true })).toBeVisible();
  expect(Number(await stored())).toBe(before + 1);
  const game = new URL(page.url()).pathname;
  await page.getByRole('link', { name: 'Lessons' }).click();
  await page.waitForURL(({ pathname }) => pathname === '/lessons');
  await page.goBack();
  await expect(page.locator('.move.current')).toHaveText(/^e3/);
  expect(new URL(page.url()).pathname).toBe(game);

  // the same once more is a game of its own, stored also in leaving
  await paste(page, FEN);
  await page.waitForURL(isUnkeptDesk);
  await page.getByLabel('Next move').fill('e3');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Lessons' }).click();
  await page.waitForURL(({ pathname }) => pathname === '/lessons');
  await expect.poll(async () => Number(await stored())).toBe(before + 2);
  expect(errors).toEqual([]);
});

test('names and one’s own side keep a position, which goes on as the stored game', async ({
  page,
}) => {
  await open(page, `/desk?${new URLSearchParams({ kind: 'chess', position: FEN })}`);
  const card = page.getByRole('region', { name: 'Game', exact: true });
  await card.getByRole('button', { name: 'Edit details' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Black').fill('Ottilie Krampe');
  await dialog.getByLabel('My side').selectOption({ label: 'Black' });
  await dialog.getByRole('button', { name: 'Keep the changes' }).click();
  await page.waitForURL(/\/games\/\d+$/);
  await expect(dialog).toHaveCount(0);
  const player = page.locator('.player-line').filter({ hasText: 'Ottilie Krampe' });
  await expect(player).toContainText('you');
  await expect(page.getByRole('button', { name: 'Delete' })).toBeVisible();
  await page.reload();
  await expect(player).toContainText('you');
});

test('a deeper look at a position keeps it', async ({ page }) => {
  await open(page, `/desk?${new URLSearchParams({ kind: 'chess', position: FEN })}`);
  await page.getByRole('button', { name: 'I doubt this' }).click();
  await page.waitForURL(/\/games\/\d+/);
  await expect(page.getByRole('article', { name: 'Bektra' })).toBeVisible();
  // what is no position is set up first
  await open(
    page,
    `/desk?${new URLSearchParams({ kind: 'chess', position: '8/8/8/8/8/8/8/8 w - - 0 1' })}`,
  );
  await page.waitForURL(({ pathname }) => pathname === '/setup');
  await expect(page.getByRole('main').getByRole('alert')).toContainText('has no king');
});

test('the same for shogi', async ({ page }) => {
  await takeIn(page, 'first.kifu', SHOGI);
  await takeIn(page, 'second.kifu', SHOGI.replace('９五歩(96)', '８六歩(87)'));
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await card(page).getByRole('button', { name: 'Copy position' }).click();
  expect(await clipboard(page)).toContain(' b - 3');
  await card(page).getByRole('button', { name: 'Where else?' }).click();
  await expect(page.getByTestId('elsewhere')).toContainText('then P-9e');
  await paste(page, '7g7f P-3d');
  await expect(page.locator('.inline-move.current')).toHaveText('P-3d');
});

test('lessons are kept, listed by game and open their position', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'lesson.pgn', CHESS);
  for (let i = 0; i < 2; i++) await page.keyboard.press('ArrowRight');
  const words = `Look before the king's knight ${Date.now()}`;
  await page.keyboard.press('l');
  await page.getByRole('textbox', { name: 'Lesson, one line' }).fill(words);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').getByText('saved', { exact: true })).toBeVisible();
  await open(page, '/lessons');
  const lesson = page.getByRole('link', { name: words });
  await expect(lesson.locator('[data-board=chess]')).toBeVisible();
  await lesson.click();
  await expect(page.locator('.move.current')).toHaveText(/^g5/);
  expect(errors).toEqual([]);
});

test('leaving right after a step leads there, and back to the step', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'leaving.pgn', CHESS);
  const game = new URL(page.url()).pathname;
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await page.getByRole('link', { name: 'Lessons' }).click();
  await page.waitForURL((url) => url.pathname === '/lessons');
  // whatever was still to be done on the Desk is done by now
  await page.waitForTimeout(500);
  expect(new URL(page.url()).pathname).toBe('/lessons');
  await page.goBack();
  await page.waitForURL((url) => url.pathname === game && url.searchParams.has('node'));
  await expect(page.locator('.move.current')).toHaveText(/^Bb2/);
  // and a position pasted at once opens
  await page.keyboard.press('ArrowRight');
  await paste(page, FEN);
  await page.waitForURL(isUnkeptDesk);
  await expect(boardWords(page)).toHaveText(/White: king e1, pawn e2\. Black: king e8\.$/);
  expect(errors).toEqual([]);
});
