import { expect, test, type Page } from '@playwright/test';
import { kif, open, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn('Editing', `1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 4. Ba4 Nf6 1-0`);

const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
   3 ２六歩(27)
   4 ８四歩(83)
`);

const sheetOf = (page: Page) => page.getByRole('region', { name: 'Moves of the game' });
const saved = (page: Page) =>
  expect(page.getByRole('status').getByText('saved', { exact: true })).toBeVisible();
const play = async (page: Page, move: string): Promise<void> => {
  await page.keyboard.press('/');
  await page.keyboard.type(move);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
};
/** The game as the server holds it. */
async function exported(page: Page, format: string): Promise<string> {
  await saved(page);
  const id = /\/games\/(\d+)/.exec(page.url())![1];
  const answer = await page.request.get(`/api/games/${id}/export?format=${format}&findings=0`);
  return (await answer.text()).replace(/\s+/g, ' ');
}

/** Drags from one square of the board to another. */
async function drag(page: Page, from: number, to: number): Promise<void> {
  const middle = async (square: number): Promise<[number, number]> => {
    const box = (await page.locator(`[data-square="${square}"]`).boundingBox())!;
    return [box.x + box.width / 2, box.y + box.height / 2];
  };
  await page.mouse.move(...(await middle(from)));
  await page.mouse.down();
  await page.mouse.move(...(await middle(to)), { steps: 5 });
  await page.mouse.up();
}

test('a chess sheet is written: lines, words, symbols, marks, and all of it undone', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'editing.pgn', CHESS);
  const sheet = sheetOf(page);
  const before = await exported(page, 'pgn');

  // typed, dragged and clicked: a move that is there is followed, another becomes a variation
  await play(page, 'e4');
  await expect(sheet.locator('.move.current')).toHaveText(/^e4/);
  await drag(page, 52, 36);
  await expect(sheet.locator('.move.current')).toHaveText(/^e5/);
  await play(page, 'Bc4');
  await expect(sheet.locator('.inline-move.current')).toHaveText('Bc4');
  await page.locator('[data-square="57"]').click();
  await page.locator('[data-square="42"]').click();
  await expect(sheet.locator('.inline-move.current')).toHaveText('Nc6');
  expect(await exported(page, 'pgn')).toContain('2. Nf3 (2. Bc4 Nc6) 2... Nc6');

  // an illegal move names the legal ones nearby and changes nothing
  await page.keyboard.press('/');
  await page.getByRole('textbox', { name: 'Next move' }).fill('Nf9');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'Nf9' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Next move' }).fill('');
  await page.keyboard.press('Escape');

  // symbols by key: the second sign joins the first
  await page.keyboard.press('!');
  await page.keyboard.press('?');
  await expect(sheet.locator('.inline-move.current .sign')).toHaveText('!?');
  // and by menu
  await page.getByRole('button', { name: 'Symbol' }).click();
  await page.getByRole('button', { name: /initiative/ }).click();
  await expect(sheet.locator('.inline-move.current')).toHaveText('Nc6!?→');

  // words before and after, and a lesson
  await page.keyboard.press('c');
  await page
    .getByRole('textbox', { name: 'Words after the move' })
    .fill('A [quiet] plan.\nSecond line.');
  await page.keyboard.press('Control+Enter');
  await page.keyboard.press('Shift+C');
  await page.getByRole('textbox', { name: 'Words before the move' }).fill('Instead,');
  await page.keyboard.press('Control+Enter');
  await page.keyboard.press('l');
  await page.getByRole('textbox', { name: 'Lesson, one line' }).fill('Develop towards the centre');
  await page.keyboard.press('Enter');
  await expect(sheet.getByText('Develop towards the centre')).toBeVisible();
  // what is dropped with Escape leaves no trace
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Words after the move' }).fill('dropped');
  await page.keyboard.press('Escape');
  await expect(sheet.getByText('Second line.')).toBeVisible();

  // marks: a circle by a click, an arrow by a drag, another by name
  await page.keyboard.press('d');
  await page.locator('[data-square="28"]').click();
  await drag(page, 26, 53);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Marks' }).click();
  await page.getByRole('textbox', { name: 'Mark by name' }).fill('r d5');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  const board = page.locator('.board-side [data-board=chess]');
  await expect(board.locator('.ring')).toHaveCount(2);
  await expect(board.locator('.arrow.mark')).toHaveCount(1);

  const text = await exported(page, 'pgn');
  expect(text).toContain('[%csl Ge4,Rd5]');
  expect(text).toContain('[%cal Gc4f7]');
  expect(text).toContain('[%lesson Develop towards the centre]');
  expect(text).toContain('A [quiet] plan. Second line.');
  expect(text).toContain('Nc6 $5 $36');

  // the variation becomes the main line, and steps back
  await page.keyboard.press('Shift+Home');
  expect(await exported(page, 'pgn')).toMatch(/2\. Bc4 .*\(2\. Nf3/);
  await page.keyboard.press('Shift+ArrowDown');
  // folded up, its moves are counted
  await page.getByRole('button', { name: 'Line', exact: true }).click();
  await page.getByRole('button', { name: 'Fold the variation up' }).click();
  await expect(sheet.getByText('and 1 move')).toBeVisible();
  await page.getByRole('button', { name: 'Unfold this variation' }).click();

  // all of it is undone, redone, and there after a reload
  const written = await exported(page, 'pgn');
  const undo = page.getByRole('button', { name: 'Undo' });
  while (await undo.isEnabled()) await page.keyboard.press('Control+z');
  expect(await exported(page, 'pgn')).toBe(before);
  const redo = page.getByRole('button', { name: 'Redo' });
  while (await redo.isEnabled()) await page.keyboard.press('Control+Shift+z');
  expect(await exported(page, 'pgn')).toBe(written);
  await page.reload();
  await page.locator('html[data-bs-theme]').waitFor();
  await expect(sheet.getByText('Second line.')).toBeVisible();

  // deleting: the variation, and the game from a move on
  await sheet.getByRole('button', { name: 'Bc4' }).click();
  await page.keyboard.press('Shift+Delete');
  await expect(sheet.getByRole('button', { name: 'Bc4' })).toHaveCount(0);
  expect(await exported(page, 'pgn')).toBe(before);
  expect(errors).toEqual([]);
});

test('a move is put in place of another after asking', async ({ page }) => {
  await takeIn(page, 'replace.pgn', CHESS.replace('Editing', 'Replacing'));
  const sheet = sheetOf(page);
  await page.keyboard.press('ArrowRight');
  await play(page, 'c5');
  await page.getByRole('button', { name: 'Put it in place of e5' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('7 moves');
  await dialog.getByRole('button', { name: 'Leave it' }).click();
  await expect(sheet.getByRole('button', { name: /^e5/ })).toBeVisible();
  await page.getByRole('button', { name: 'Put it in place of e5' }).click();
  await dialog.getByRole('button', { name: 'Replace' }).click();
  await expect(sheet.getByRole('button', { name: /^e5/ })).toHaveCount(0);
  expect(await exported(page, 'pgn')).toContain('1. e4 c5 1-0');
  await page.keyboard.press('Control+z');
  expect(await exported(page, 'pgn')).toContain('1. e4 e5 (1... c5) 2. Nf3');
});

test('a shogi sheet is written in the same way', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'editing.kifu', SHOGI);
  const sheet = sheetOf(page);
  for (const move of ['7g7f', 'P-3d', 'Bx2b+', 'Sx2b', 'B*5e']) await play(page, move);
  await expect(sheet.locator('.inline-move.current')).toHaveText('B*5e');
  // dropped from the stand with the pointer: a bishop for White
  const hand = page.locator('[data-hand-piece]').first();
  const from = (await hand.boundingBox())!;
  const to = (await page.locator('[data-square="40"]').boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2 - to.height, { steps: 5 });
  await page.mouse.up();
  await expect(sheet.locator('.inline-move.current')).toHaveText(/^B\*/);
  await page.keyboard.press('?');
  await page.keyboard.press('?');
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Words after the move' }).fill('角の打ち込み');
  await page.keyboard.press('Control+Enter');
  const kif = await exported(page, 'kif');
  expect(kif).toContain('変化：3手');
  expect(kif).toContain('*[%nag 4]');
  expect(kif).toContain('*角の打ち込み');
  await page.reload();
  await page.locator('html[data-bs-theme]').waitFor();
  await expect(sheet.getByText('角の打ち込み')).toBeVisible();
  expect(errors).toEqual([]);
});

test('two people write on the same game: nothing of either is lost unasked', async ({
  page,
  context,
}) => {
  await takeIn(page, 'two.pgn', CHESS.replace('Editing', 'Two at once'));
  const other = await context.newPage();
  await open(other, new URL(page.url()).pathname);
  await sheetOf(other).locator('.move').first().waitFor();

  // what one writes is seen by the other
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Words after the move' }).fill('from the first');
  await page.keyboard.press('Control+Enter');
  await expect(sheetOf(other).getByText('from the first')).toBeVisible();

  // a save made for an older version is refused and offered as a merge
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  await other.route('**/steps', async (route) => {
    if (route.request().method() === 'POST') await held;
    await route.continue();
  });
  await other.keyboard.press('End');
  await other.keyboard.press('c');
  await other.getByRole('textbox', { name: 'Words after the move' }).fill('from the second');
  await other.keyboard.press('Control+Enter');
  // at the same move, so that one of the two would be lost
  await page.keyboard.press('End');
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Words after the move' }).fill('by the first');
  await page.keyboard.press('Control+Enter');
  await play(page, 'O-O');
  await expect(sheetOf(page).getByText('O-O')).toBeVisible();
  await saved(page);
  release();
  const conflict = other.getByRole('alert').filter({ hasText: 'Somebody else' });
  await expect(conflict).toBeVisible();
  await conflict.getByRole('button', { name: 'Keep mine on top of theirs' }).click();
  await expect(sheetOf(other).getByText('O-O')).toBeVisible();
  await expect(sheetOf(page).getByText('from the second')).toBeVisible();
  const text = await exported(page, 'pgn');
  expect(text).toContain('from the first');
  expect(text).toContain('5. O-O');
});

test('what was not saved because the server was away is saved when it is back', async ({
  page,
}) => {
  await takeIn(page, 'away.pgn', CHESS.replace('Editing', 'Server away'));
  await page.route('**/steps', (route) => route.abort());
  await page.keyboard.press('End');
  await page.keyboard.press('!');
  await expect(page.getByText('the server does not answer')).toBeVisible();
  await page.unroute('**/steps');
  expect(await exported(page, 'pgn')).toContain('Nf6 $1');
});

test('what is written while a save is under way is kept when one leaves for another page', async ({
  page,
}) => {
  await takeIn(page, 'leaving.pgn', CHESS);
  const address = new URL(page.url()).pathname;
  let slow = true;
  await page.route('**/steps', async (route) => {
    if (slow) await new Promise((resolve) => setTimeout(resolve, 1500));
    slow = false;
    await route.continue();
  });
  await page.keyboard.press('End');
  const sent = page.waitForRequest('**/steps');
  await page.keyboard.press('!');
  await sent;
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('?');
  await page.getByRole('link', { name: 'Lessons' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  const text = async (): Promise<string> => {
    const answer = await page.request.get(`/api${address}/export?format=pgn&findings=0`);
    return (await answer.text()).replace(/\s+/g, ' ');
  };
  await expect.poll(text).toContain('4. Ba4 $2 Nf6 $1');
});
