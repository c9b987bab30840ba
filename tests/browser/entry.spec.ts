import { expect, test, type Page } from '@playwright/test';
import { open } from './support';

const enter = async (page: Page, ...moves: string[]): Promise<void> => {
  const field = page.getByRole('textbox', { name: 'Next move' });
  for (const move of moves) {
    await field.fill(move);
    await field.press('Enter');
    await expect(field).toHaveValue('');
  }
};
const entered = (page: Page) => page.getByTestId('entered-moves');

test('a game half entered is there again after the page was closed, until it is saved', async ({
  page,
  context,
}) => {
  await open(page, '/games/new');
  await enter(page, 'd4 0:07', 'd5', 'c4');
  await page.getByRole('textbox', { name: 'White' }).fill('Mirela Tanase');
  await page.close();

  const again = await context.newPage();
  await open(again, '/games/new');
  await expect(entered(again)).toHaveText(/1\. d4 0:07 d5 2\. c4/);
  await expect(again.getByText('taken up where you left off')).toBeVisible();
  await expect(again.getByRole('textbox', { name: 'White' })).toHaveValue('Mirela Tanase');
  await enter(again, 'e6');
  await expect(again.getByText('taken up where you left off')).toBeHidden();
  await again.getByRole('button', { name: 'Save the game' }).click();
  await again.waitForURL(/\/games\/\d+$/);

  await open(again, '/games/new');
  await expect(again.getByText('Enter at least one move.')).toBeVisible();
  await expect(again.getByRole('textbox', { name: 'White' })).toHaveValue('');
});

test('each game has its own draft, and the one last entered comes first', async ({ page }) => {
  await open(page, '/games/new');
  await enter(page, 'e4', 'c5');
  await open(page, '/games/new?kind=shogi');
  await page.getByRole('combobox', { name: 'Handicap' }).selectOption({ label: 'bishop' });
  await enter(page, 'P-3d');
  await open(page, '/games/new');
  await expect(entered(page)).toHaveText(/1\. P-3d/);
  await expect(page.getByRole('combobox', { name: 'Handicap' }).locator(':checked')).toHaveText(
    'bishop',
  );
  await open(page, '/games/new?kind=chess');
  await expect(entered(page)).toHaveText(/1\. e4 c5/);
});

test('a game is begun anew, and brought back if that was a mistake', async ({ page }) => {
  await open(page, '/games/new?kind=shogi');
  await enter(page, '7g7f', '3c3d');
  const game = page.getByRole('combobox', { name: 'Game' });
  await expect(game).toBeDisabled();
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(entered(page)).toContainText('Click a piece');
  await page.getByRole('button', { name: 'Put forward again' }).click();
  await page.getByRole('button', { name: 'Put forward again' }).click();
  await expect(entered(page)).toHaveText(/1\. P-7f 2\. P-3d/);
  // a move is taken back by key, and put forward
  await page.getByRole('button', { name: 'Begin anew' }).focus();
  await page.keyboard.press('Control+z');
  await expect(entered(page)).toHaveText(/1\. P-7f\s*$/);
  await page.keyboard.press('Control+Shift+z');
  await expect(entered(page)).toHaveText(/1\. P-7f 2\. P-3d/);
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await game.selectOption('chess');
  await enter(page, 'Nf3');
  await expect(entered(page)).toHaveText(/1\. Nf3/);
});

test('a draft that makes no sense is left out, and the rest of the page works', async ({
  page,
}) => {
  const keep = (draft: unknown) =>
    page.evaluate(
      `localStorage.setItem('bektra-drafts', ${JSON.stringify(
        JSON.stringify({ state: { kind: 'chess', kept: { chess: draft } }, version: 0 }),
      )})`,
    );
  await open(page, '/games/new');
  await keep({
    start: 'no position',
    moves: [{ code: 'e2e4', spent: null }],
    header: { first: 'Ottilie Krampe' },
  });
  await open(page, '/games/new');
  await expect(page.getByText('Enter at least one move.')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'White' })).toHaveValue('Ottilie Krampe');
  await keep({
    moves: [
      { code: 'e2e4', spent: null },
      { code: 'e2e4', spent: 5 },
    ],
  });
  await open(page, '/games/new');
  await expect(entered(page)).toHaveText(/1\. e4\s*$/);
  for (const nothing of ['moves', 7, { moves: 'e2e4', header: [1] }]) {
    await keep(nothing);
    await open(page, '/games/new');
    await expect(page.getByText('Enter at least one move.')).toBeVisible();
  }
  await page.evaluate(`localStorage.setItem('bektra-drafts', '{')`);
  await open(page, '/games/new?kind=chess');
  await enter(page, 'e4');
  await expect(entered(page)).toHaveText(/1\. e4/);
});
